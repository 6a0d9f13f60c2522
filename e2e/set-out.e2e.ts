import type { Page } from '@playwright/test'
import { COURSE, expect, MARKER, comeIn, test } from './level-table'
import { adoptByMouse } from './moderating'

const SECTIONS = ['Alidade', 'Clinometer', 'Dioptra', 'Groma', 'Heliotrope', 'Octant', 'Sextant', 'Theodolite']
const MEETS = ['Mon Wed', 'Tue Thu', 'Wed Fri', 'Mon Thu', 'Tue Fri', 'Mon', 'Wed', 'Thu']

/** A roll as a records office sends it: 8 sections, 5 students each, with a mistake in one row where wanted. */
function rollFile(mistake = false) {
  const rows = SECTIONS.flatMap((section, s) =>
    Array.from({ length: 5 }, (_, i) =>
      [
        `${5000 + s * 5 + i}`,
        mistake && s === 3 && i === 2 ? '' : `Student ${section} ${i + 1}`,
        section[0],
        section,
        MEETS[s],
        `2027-09-${s === 5 ? 20 : 13}`,
      ].join(';'),
    ),
  )
  const text = ['Candidate no.;Student;Section;Section name;Meets;Starts', ...rows].join('\r\n')
  return { name: 'roll.csv', mimeType: 'text/csv', buffer: Buffer.from(text) }
}

const startCourse = async (page: Page) => {
  await page.getByRole('button', { name: /CFS 214 Field Mapping/ }).click()
  await page.getByRole('button', { name: 'Start a course…' }).click()
  return page.getByRole('dialog')
}

test('a course from nothing, with the mouse: roll, plan, eight sections’ dates, mistakes found and mended, next year from it', async ({
  lead: page,
}) => {
  await test.step('start', async () => {
    const dialog = await startCourse(page)
    await dialog.getByLabel('From').selectOption('nothing')
    await dialog.getByLabel('Code').fill('CFS 301')
    await dialog.getByLabel('Title').fill('Coastal Survey')
    await dialog.getByLabel('Term', { exact: true }).fill('autumn 2027')
    await dialog.getByLabel('First teaching day', { exact: true }).fill('2027-09-13')
    await dialog.getByLabel('Last teaching day', { exact: true }).fill('2027-12-17')
    await dialog.getByRole('button', { name: /^Start it/ }).click()
    await expect(page.getByRole('heading', { name: 'Who is taught' })).toBeVisible()
    await expect(page.getByText('Nobody is on the roll yet.')).toBeVisible()
  })

  await test.step('roll: a bad row keeps the file out, the mended one comes in, and a second time changes nothing', async () => {
    await page.getByRole('button', { name: /^Bring in a roll/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel(/CSV, XLSX/).setInputFiles(rollFile(true))
    await expect(dialog.getByText('The name is missing.')).toBeVisible()
    await expect(dialog.getByRole('button', { name: /^Bring in/ })).toBeDisabled()
    await dialog.getByLabel(/CSV, XLSX/).setInputFiles(rollFile())
    await expect(dialog.getByRole('status')).toContainText('40 added')
    await expect(dialog.getByText('A Alidade, C Clinometer')).toBeVisible()
    await dialog.getByRole('button', { name: 'Bring in 48 changes' }).click()
    await expect(dialog).toBeHidden()
    await expect(page.getByText('40 students in 8 sections')).toBeVisible()
    await page.getByRole('button', { name: /^Bring in a roll/ }).click()
    await dialog.getByLabel(/CSV, XLSX/).setInputFiles(rollFile())
    await expect(dialog.getByRole('status')).toContainText('40 unchanged')
    await expect(dialog.getByRole('button', { name: /^Bring in/ })).toBeDisabled()
    await dialog.getByText('Close', { exact: true }).click()
  })

  await test.step('roll: a student moves from a day on, and undo brings them back', async () => {
    await page.getByRole('row', { name: /Student Groma 1/ }).click()
    const closeUp = page.getByRole('complementary')
    await closeUp.getByLabel('from').fill('2027-10-11')
    await closeUp.getByLabel('in', { exact: true }).selectOption('Sextant')
    await closeUp.getByRole('button', { name: 'Move to Sextant' }).click()
    await expect(closeUp.getByText('13 Sep 2027 to 10 Oct 2027')).toBeVisible()
    await page.getByRole('button', { name: /^Undo: move/ }).click()
    await expect(closeUp.getByText('13 Sep 2027 on')).toBeVisible()
  })

  await test.step('plan: components and assessments, a weight left empty is said and spread', async () => {
    await page.getByRole('link', { name: /^plan/ }).click()
    const add = async (title: string, weight: string) => {
      await page.getByRole('button', { name: /New component|Add the first component/ }).click()
      const dialog = page.getByRole('dialog')
      await dialog.getByLabel('Title').fill(title)
      await dialog.getByLabel(/^Weight/).fill(weight)
      await dialog.getByRole('button', { name: /^Add/ }).click()
      await expect(dialog).toBeHidden()
    }
    await add('Practicals', '40')
    await add('Written paper', '')
    await expect(page.getByText('weight is missing')).toBeVisible()
    await expect(page.getByRole('link', { name: 'plan 1' })).toBeVisible()
    await page.getByRole('button', { name: 'spread the remaining 60' }).click()
    await expect(page.getByText('sum 100')).toBeVisible()
    await expect(page.getByText('weight is missing')).toBeHidden()

    const assess = async (title: string, component: string, outOf: string) => {
      await page.getByRole('button', { name: /^New assessment/ }).click()
      const dialog = page.getByRole('dialog')
      await dialog.getByLabel('Title').fill(title)
      await dialog.getByLabel('Component').selectOption(component)
      await dialog.getByLabel('Marked out of').fill(outOf)
      await dialog.getByRole('button', { name: /^Add/ }).click()
      await expect(dialog).toBeHidden()
    }
    await assess('Tide table', 'Practicals', '20')
    await assess('Tide table', 'Practicals', '30')
    await assess('Paper', 'Written paper', '80')
    await expect(page.getByLabel('Title of Tide table 2')).toBeVisible()
    await expect(page.getByRole('row', { name: /Paper/ }).getByText('60.0')).toBeVisible()
    await page.getByLabel('Pass mark of Paper').fill('90')
    await page.getByLabel('Pass mark of Paper').press('Enter')
    await expect(page.getByRole('alert')).toContainText('The pass mark 90 is over the maximum of 80.')
    await page.getByLabel('Pass mark of Paper').fill('40')
    await page.getByLabel('Pass mark of Paper').press('Enter')
    await expect(page.getByRole('alert')).toBeHidden()
    await page.getByRole('heading', { level: 1 }).click()
    await page.keyboard.press('Escape')
    await expect(page.getByText('Every fall equals the weight in the plan.')).toBeVisible()
  })

  const cell = (title: string, section: string) => page.getByRole('gridcell', { name: new RegExp(`^${title}, ${section}:`) })
  await test.step('placements: each section’s first meeting in a week, all eight at once; who has not started is left out', async () => {
    await page.getByRole('link', { name: /^placements/ }).click()
    await expect(page.getByRole('heading', { name: '3 to look at' })).toBeVisible()
    await page.getByRole('rowheader', { name: 'Tide table', exact: true }).click()
    await page.getByLabel('Day or week for the chosen cells').fill('w1')
    await page.getByLabel('Day or week for the chosen cells').press('Enter')
    await expect(page.getByText('Left out, since not started by then: Octant.')).toBeVisible()
    await expect(cell('Tide table', 'Clinometer')).toHaveAttribute('aria-label', /Tuesday 14 Sep 2027/)
    await expect(cell('Tide table', 'Octant')).toHaveAttribute('aria-label', /no date/)
    await page.getByRole('rowheader', { name: 'Tide table 2' }).click()
    await page.getByLabel('first meeting from').fill('2027-10-12')
    await page.getByRole('button', { name: 'Set', exact: true }).last().click()
    await expect(cell('Tide table 2', 'Theodolite')).toHaveAttribute('aria-label', /Thursday 14 Oct 2027/)
    await page.getByRole('button', { name: '+1 week' }).click()
    await expect(cell('Tide table 2', 'Theodolite')).toHaveAttribute('aria-label', /Thursday 21 Oct 2027/)
    await page.getByRole('button', { name: /^Undo: shift/ }).click()
    await expect(cell('Tide table 2', 'Theodolite')).toHaveAttribute('aria-label', /Thursday 14 Oct 2027/)
  })

  await test.step('placements: three mistakes are found and mended; one is let stand', async () => {
    await page.getByRole('rowheader', { name: 'Paper' }).click()
    await page.getByLabel('Day or week for the chosen cells').fill('w12')
    await page.getByLabel('Day or week for the chosen cells').press('Enter')
    const plant = async (section: string, text: string) => {
      await cell('Paper', section).dblclick()
      await page.getByLabel('Day', { exact: true }).fill(text)
      await page.getByLabel('Day', { exact: true }).press('Enter')
    }
    await plant('Groma', '5 Dec')
    await plant('Sextant', '10 Jan 2028')
    await cell('Paper', 'Dioptra').click()
    await page.keyboard.press('Delete')
    const closeUp = page.getByRole('complementary')
    await expect(closeUp.getByText('Paper in Groma is due on a Sunday.')).toBeVisible()
    await expect(closeUp.getByText(/Paper in Sextant is due 10 Jan 2028, outside the term/)).toBeVisible()
    await expect(closeUp.getByText('Paper is not set for Dioptra.')).toBeVisible()
    await page.getByRole('link', { name: /^plan/ }).click()
    await expect(page.getByText('has no Paper')).toBeVisible()
    await page.getByRole('link', { name: /^placements/ }).click()
    await closeUp.getByRole('button', { name: 'Put it on Mon 6 Dec' }).click()
    await expect(closeUp.getByText('Paper in Groma is due on a Sunday.')).toBeHidden()
    await closeUp.getByRole('button', { name: /^Put it on Wed 1 Dec/ }).click()
    await closeUp.getByRole('button', { name: /^Set it on Wed 1 Dec/ }).click()
    await expect(closeUp.getByText('Paper is not set for Dioptra.')).toBeHidden()
    await expect(closeUp.getByText('Tide table has no date in Octant.')).toBeVisible()
    await closeUp.getByRole('button', { name: 'Let it stand…' }).click()
    await closeUp.getByLabel('Why it may stand').fill('Octant sits it with Sextant')
    await closeUp.getByRole('button', { name: 'Let stand', exact: true }).click()
    await expect(closeUp.getByRole('heading', { name: 'Nothing odd about the dates' })).toBeVisible()
  })

  await test.step('next year from it: the same plan, the dates a year on, nobody on the roll', async () => {
    await page.getByRole('button', { name: /CFS 301 Coastal Survey/ }).click()
    await page.getByRole('button', { name: 'Start a course…' }).click()
    const dialog = page.getByRole('dialog')
    await expect(dialog.getByLabel('Term', { exact: true })).toHaveValue('autumn 2028')
    await dialog.getByRole('button', { name: /^Start it/ }).click()
    await expect(page.getByRole('button', { name: /CFS 301 Coastal Survey autumn 2028/ })).toBeVisible()
    await expect(page.getByText('sum 100')).toBeVisible()
    await page.getByRole('link', { name: /^placements/ }).click()
    await expect(cell('Tide table 2', 'Theodolite')).toHaveAttribute('aria-label', /Thursday 12 Oct 2028/)
    await page.getByRole('link', { name: /^roll/ }).click()
    await expect(page.getByText('0 students in 8 sections')).toBeVisible()
  })
})

test('dates, plan and roll by keyboard alone', async ({ lead: page }) => {
  const keys = page.keyboard
  await expect(page.getByRole('heading', { name: 'What counts, and how much' })).toBeVisible()
  await keys.press('3')
  await expect(page.getByRole('heading', { name: 'When everything is due' })).toBeVisible()
  const grid = page.getByRole('grid', { name: 'Due days' })
  for (let i = 0; i < 60 && !(await grid.evaluate((e) => e === document.activeElement)); i++) await keys.press('Tab')
  await expect(grid).toBeFocused()

  await test.step('the Sunday is walked to and mended by typing', async () => {
    for (let i = 0; i < 5; i++) await keys.press('ArrowDown')
    for (let i = 0; i < 3; i++) await keys.press('ArrowRight')
    const sunday = page.getByRole('gridcell', { name: /^Plane table, Groma:/ })
    await expect(sunday).toHaveAttribute('aria-label', /Sunday 1 Nov 2026.*on a Sunday/)
    await keys.type('29 oct')
    await keys.press('Enter')
    await expect(sunday).toHaveAttribute('aria-label', 'Plane table, Groma: Thursday 29 Oct 2026')
    await keys.press(']')
    await expect(sunday).toHaveAttribute('aria-label', /Thursday 5 Nov 2026/)
    await keys.press('Control+z')
    await expect(sunday).toHaveAttribute('aria-label', /Thursday 29 Oct 2026/)
  })

  await test.step('keys pressed faster than the server answers are all done, one after another', async () => {
    const cell = page.getByRole('gridcell', { name: /^Plane table, Groma:/ })
    for (let i = 0; i < 4; i++) await keys.press('+')
    await expect(cell).toHaveAttribute('aria-label', /Monday 2 Nov 2026/)
    await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
    await page.reload()
    await expect(cell).toHaveAttribute('aria-label', /Monday 2 Nov 2026/)
    await cell.click()
    for (let i = 0; i < 4; i++) await keys.press('-')
    await expect(cell).toHaveAttribute('aria-label', /Thursday 29 Oct 2026/)
  })

  await test.step('a block of cells is shifted by a day and back', async () => {
    await keys.press('Shift+ArrowRight')
    await keys.press('Shift+ArrowDown')
    await expect(page.getByText('4 cells')).toBeVisible()
    await keys.press('+')
    await expect(page.getByRole('gridcell', { name: /^Plane table, Groma:/ })).toHaveAttribute('aria-label', /Friday 30 Oct 2026/)
    await keys.press('-')
    await expect(page.getByRole('gridcell', { name: /^Plane table, Groma:/ })).toHaveAttribute('aria-label', /Thursday 29 Oct 2026/)
  })

  await test.step('plan: a weight moved by key, an assessment moved up and down', async () => {
    // In the board a digit begins a day; Escape steps out of it.
    await keys.press('Escape')
    await keys.press('2')
    const divider = page.getByRole('slider', { name: 'Between Field book and Practicals' })
    await divider.focus()
    await keys.press('ArrowRight')
    await expect(page.getByText(/^Trial:/)).toBeVisible()
    await expect(page.getByText('sum 100')).toBeVisible()
    await keys.press('Control+z')
    await expect(page.getByText('No trial open')).toBeVisible()
    const order = () => page.getByLabel(/^Title of /).evaluateAll((all) => all.map((e) => (e as HTMLInputElement).value))
    const before = await order()
    await page.getByLabel('Title of Levelling run').focus()
    await keys.press('Alt+ArrowDown')
    await expect.poll(order).not.toEqual(before)
    await keys.press('Control+z')
    await expect.poll(order).toEqual(before)
  })

  await test.step('roll: found by typing, walked, withdrawn and brought back by undo', async () => {
    await page.getByRole('heading', { level: 1 }).click()
    await keys.press('1')
    const find = page.getByLabel('Find a student on the roll')
    await find.focus()
    await keys.type('ghorbani')
    await keys.press('Enter')
    const closeUp = page.getByRole('complementary')
    await expect(closeUp.getByRole('heading', { name: /Ghorbani/ })).toBeVisible()
    const withdraw = closeUp.getByRole('button', { name: 'Withdraw' })
    for (let i = 0; i < 40 && !(await withdraw.evaluate((e) => e === document.activeElement)); i++) await keys.press('Tab')
    await keys.press('Enter')
    await expect(closeUp.getByText('Left. Their work stays where it is.')).toBeVisible()
    await expect(page.getByText(/235 students in 8 sections, 1 left/)).toBeVisible()
    await keys.press('Control+z')
    await expect(page.getByText(/236 students in 8 sections$/)).toBeVisible()
  })
})

test('what is typed is not taken away by an answer that comes meanwhile', async ({ lead: page }) => {
  await page.goto(`${COURSE}/set-out/plan`)
  const passMark = page.getByLabel('Pass mark of Written paper')
  await expect(passMark).toBeVisible()
  let answer = () => {}
  const held = new Promise<void>((now) => (answer = now))
  const asked = page.waitForRequest((r) => r.method() === 'GET' && r.url().endsWith('/plan'))
  await page.route('**/plan', async (route) => {
    await held
    await route.continue()
  })
  await passMark.fill('90')
  await passMark.press('Enter')
  await expect(page.getByRole('alert')).toContainText('The pass mark 90 is over the maximum of 80.')
  const answered = (await asked).response()
  await passMark.fill('41')
  answer()
  await answered
  await passMark.press('Enter')
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await page.unrouteAll({ behavior: 'wait' })
  await page.reload()
  await expect(passMark).toHaveValue('41')
})

test('with marks about, what moves grades is tried: leaving an assessment out, taking one away, a policy, a student left out', async ({
  lead: page,
}) => {
  const horizon = page.getByRole('contentinfo', { name: 'Where it stands' })
  await page.getByLabel('Title of Traverse closure').click()
  const closeUp = page.getByRole('complementary')
  await closeUp.getByRole('button', { name: 'Take it away' }).click()
  await expect(horizon.getByText(/grades? changes?$/)).toBeVisible()
  await adoptByMouse(page, 'The task was unfair')
  await expect(page.getByLabel('Title of Traverse closure')).toHaveCount(0)
  await page.getByRole('button', { name: 'bring back' }).click()
  await expect(page.getByLabel('Title of Traverse closure')).toBeVisible()

  await page.getByLabel('Title of Stereo heights').click()
  await closeUp.getByLabel('Starting mark of Stereo heights').fill('8')
  await closeUp.getByLabel('Starting mark of Stereo heights').press('Enter')
  await closeUp.getByRole('button', { name: 'Give it to all without one' }).click()
  await expect(closeUp.getByText('29 were given 8; 207 had a mark or a status, which stands.')).toBeVisible()
  await page.getByRole('button', { name: /^Undo: starting mark/ }).click()
  await closeUp.getByRole('button', { name: 'Copy it…' }).click()
  await page.getByRole('dialog').getByLabel('its pass mark').uncheck()
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Copy it/ })
    .click()
  await expect(page.getByLabel('Pass mark of Stereo heights 2')).toHaveValue('')

  await page.getByRole('button', { name: /^Policies/ }).click()
  await closeUp.getByLabel('Late work').selectOption('costs nothing')
  await expect(closeUp.getByRole('row', { name: /seven days late/ })).toContainText('80')
  await expect(horizon.getByText(/^Trial:/)).toBeVisible()
  await horizon.getByRole('button', { name: 'Discard' }).click()

  await page.getByRole('link', { name: /^placements/ }).click()
  await page.getByRole('rowheader', { name: 'Map project' }).click()
  await closeUp.getByLabel('Leave a student out of Map project').fill('aylin')
  await closeUp.getByLabel('Leave a student out of Map project').press('Enter')
  await expect(closeUp.getByText('trying')).toBeVisible()
  await adoptByMouse(page, 'Long illness')
  await expect(closeUp.getByRole('button', { name: 'back in' })).toBeVisible()
  await page.getByRole('link', { name: 'The record' }).click()
  await expect(page.getByText('1 student left out of Map project').first()).toBeVisible()
})

test('names give way to numbers on a shared screen and, where the lead says so, for markers on the server', async ({
  lead: page,
  context,
}) => {
  await page.goto(`${COURSE}/set-out/roll`)
  await expect(page.getByRole('row', { name: /Adaeze Haverkamp/ })).toBeVisible()
  await page.getByRole('button', { name: 'numbers', exact: true }).click()
  await expect(page.getByRole('button', { name: 'numbers', exact: true })).toHaveAttribute('aria-pressed', 'true')
  await page.keyboard.press('N')
  await expect(page.getByText('Adaeze')).toHaveCount(0)
  const other = await context.browser()!.newContext({ baseURL: page.url() })
  const marker = await other.newPage()
  await comeIn(marker, MARKER)
  await marker.goto(new URL(`${COURSE}/mark/sheet`, page.url()).href)
  await expect(marker.getByText('29 of 29 students')).toBeVisible()
  await expect(marker.getByText('Adaeze Xu-Marin')).toHaveCount(0)
  await other.close()
})
