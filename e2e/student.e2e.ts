import type { Page } from '@playwright/test'
import { expectNoFindings, expectNoSideways } from './checks'
import { comeIn, COURSE, expect, LEAD, signOut, test } from './level-table'
import { tabTo } from './moderating'

const API = `/api${COURSE}`
const STUDENT = /sees own work once it is released/

async function comeInAsStudent(page: Page): Promise<void> {
  await page.goto('/')
  await page.getByRole('button', { name: STUDENT }).click()
  await page.getByRole('heading', { name: 'Your work in Field Mapping' }).waitFor()
}

/** Types a mark of the student's anew: the days for asking begin with it, whatever day it is. */
async function marked(page: Page, title: string, mark: number): Promise<void> {
  const { students, assessments } = (await (await page.request.get(`${API}/sheet`)).json()) as {
    students: { id: string; name: string }[]
    assessments: { id: string; title: string }[]
  }
  const studentId = students.find((s) => s.name === 'Malik Haverkamp')!.id
  const assessmentId = assessments.find((a) => a.title === title)!.id
  const { origin } = new URL(page.url())
  const write = async (version: number) => {
    const cell = { studentId, assessmentId, version, mark, status: 'in', daysLate: 0 }
    const answer = await page.request.patch(`${API}/sheet`, { data: { cells: [cell] }, headers: { origin } })
    return (await answer.json()) as { saved: unknown[]; refused: { current: { version: number } }[] }
  }
  // Typed over nothing it is refused, with what stands there.
  const { refused } = await write(0)
  expect((await write(refused[0]!.current.version)).saved).toHaveLength(1)
}

test('on a phone: where one stands, what one would need, work handed in, one thing at a time', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await comeInAsStudent(page)
  await expect(page.getByRole('heading', { name: /^You stand at \d/ })).toBeVisible()
  await expectNoSideways(page, 'all work')
  await expectNoFindings(page, 'all work on a phone')
  await test.step('what would be needed', async () => {
    await page.getByRole('button', { name: /^What would I need for/ }).click()
    const paper = page.getByRole('slider', { name: 'Written paper' })
    const project = page.getByRole('textbox', { name: 'Mark in Map project' })
    await expect(paper).toBeVisible()
    const before = await project.inputValue()
    await paper.fill('80')
    await expect(project).not.toHaveValue(before)
    await expect(page.getByText(/^So the course would end at/)).toBeVisible()
    await expect(page.getByRole('heading', { name: 'Coming' })).toBeHidden()
    await expectNoSideways(page, 'what if')
    await expectNoFindings(page, 'what if on a phone')
    await page.goBack()
    await expect(page.getByRole('heading', { name: /^You stand at \d/ })).toBeVisible()
  })
  await test.step('handing in', async () => {
    await page.getByRole('button', { name: 'Hand in Map project' }).click()
    await page
      .getByLabel('File of Map project')
      .setInputFiles({ name: 'The ford.txt', mimeType: 'text/plain', buffer: Buffer.from('The ford, drawn again.') })
    await expect(page.getByText(/^The ford.txt is handed in/)).toBeVisible()
    await expect(page.getByText(/^Receipt, SHA-256: /)).toBeAttached()
    await expectNoSideways(page, 'handing in')
    await page.getByRole('button', { name: '‹ all work' }).click()
    await expect(page.getByRole('button', { name: 'Map project', exact: true })).toBeFocused()
    await expect(page.getByRole('row', { name: /Map project/ })).toContainText('handed in')
  })
  await test.step('the rubric of a piece of work, with what was remarked', async () => {
    await page.getByRole('button', { name: 'Field book 1' }).click()
    await expect(page.getByRole('region', { name: 'What your Field book 1 reached' })).toBeVisible()
    await expectNoSideways(page, 'a piece of work')
    await expectNoFindings(page, 'a piece of work on a phone')
  })
})

test('with the keyboard alone: asked at a desk, answered at Reconcile, read by who asked', async ({ page }) => {
  const keys = page.keyboard
  await comeIn(page, LEAD)
  await marked(page, 'Levelling run', 21)
  await signOut(page, LEAD)
  await comeInAsStudent(page)
  await tabTo(page, page.getByRole('button', { name: 'Levelling run' }))
  await keys.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: /^Levelling run/ })).toBeFocused()
  await tabTo(page, page.getByRole('button', { name: 'Ask about this mark' }))
  await keys.press('Enter')
  await expect(page.getByLabel('What it is about')).toBeFocused()
  await keys.press('Tab')
  await keys.type('The loop closes on the second bolt; was that the one that was read?')
  await keys.press('Tab')
  await keys.press('Enter')
  await expect(page.getByText(/^Asked\. Whoever teaches/)).toBeVisible()
  await expect(page.getByText('It waits for an answer.')).toBeVisible()
  await expectNoFindings(page, 'asking at a desk')
  await signOut(page, 'Malik Haverkamp')

  await comeIn(page, LEAD)
  await page.goto(`${COURSE}/reconcile`)
  await expect(page.getByRole('heading', { name: '38 scripts to settle' })).toBeVisible()
  await keys.press('q')
  await expect(page.getByRole('heading', { name: '2 questions wait for an answer' })).toBeVisible()
  const closeUp = page.getByRole('region', { name: 'The question' })
  await expect(closeUp).toContainText('Malik Haverkamp')
  await tabTo(page, closeUp.getByRole('button', { name: 'Answer' }))
  await keys.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Your answer' })).toBeFocused()
  await keys.type('It was the second: the run is marked as it closes there.')
  await keys.press('Tab')
  await keys.press('Enter')
  await expect(page.getByRole('heading', { name: '1 question waits for an answer' })).toBeVisible()
  await signOut(page, LEAD)

  await comeInAsStudent(page)
  await page.getByRole('button', { name: 'Levelling run' }).click()
  await expect(page.getByText('It was the second: the run is marked as it closes there.')).toBeVisible()
  await expect(page.getByRole('row', { name: /Levelling run/ })).toContainText('21')
})

test('a class looks at its work: by numbers or code names, and nobody’s name is on the page or was sent to it', async ({ page }) => {
  await comeIn(page, LEAD)
  const { students } = (await (await page.request.get(`${API}/sheet`)).json()) as { students: { name: string }[] }
  expect(students.length).toBeGreaterThan(200)
  await page.goto(`${COURSE}/mark/sheet`)
  await page.getByLabel('Section', { exact: true }).selectOption({ label: 'Heliotrope' })
  const sent: string[] = []
  await page.getByRole('link', { name: 'Show the class' }).click()
  await expect(page.getByRole('heading', { name: /^Heliotrope/ })).toBeVisible()
  // As it is opened on the machine at the wall.
  page.on('response', (r) => {
    if (r.url().includes('/api/'))
      void r.text().then(
        (t) => sent.push(t),
        () => undefined,
      )
  })
  await page.reload()
  await expect(page.getByRole('listitem').first()).toBeVisible()
  await expectNoFindings(page, 'the class')
  await page.getByRole('button', { name: 'code names' }).click()
  await expect(page.getByRole('button', { name: 'Draw them anew' })).toBeVisible()
  await expect(page.getByText('plover')).toBeVisible()
  const seen = await page.content()
  expect(students.filter((s) => seen.includes(s.name))).toEqual([])
  expect(students.filter((s) => sent.some((t) => t.includes(s.name)))).toEqual([])
  await page.setViewportSize({ width: 640, height: 400 })
  await expectNoSideways(page, 'the class at 200%')
})
