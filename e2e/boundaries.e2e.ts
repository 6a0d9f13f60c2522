import { readFile } from 'node:fs/promises'
import { createHash } from 'node:crypto'
import type { Page } from '@playwright/test'
import { checkExport, independentResults } from './independent'
import { comeIn, COURSE, expect, EXTERNAL, goTo, LEAD, signOut, test } from './level-table'
import { adopt, settleAll, tabTo } from './moderating'

const part = (page: Page, name: string) => page.getByRole('group', { name: /^Parts of/ }).getByRole('button', { name, exact: true })
const downloaded = async (page: Page, name: string, issue: number): Promise<Buffer> => {
  // The issue before it stands there alone until the list of them has come anew.
  const link = page.getByRole('link', { name, exact: true }).first()
  await expect(link).toHaveAttribute('href', new RegExp(`/issues/${issue}/`))
  const download = page.waitForEvent('download')
  await link.click()
  return readFile((await (await download).path())!)
}

test('two drafts, a suggestion and a condition, each seen before it is adopted', async ({ lead: page }) => {
  await settleAll(page)

  await test.step('two drafts of the lines are kept beside each other, and held against each other', async () => {
    await goTo(page, 'Bound')
    for (const [merit, name] of [
      ['69', 'Merit at 69'],
      ['71', 'Merit at 71'],
    ] as const) {
      await part(page, 'lines').click()
      await page.getByRole('textbox', { name: 'Merit begins at' }).fill(merit)
      await page.getByRole('textbox', { name: 'Merit begins at' }).press('Enter')
      await expect(page.getByText(/^Trial:/)).toBeVisible()
      await part(page, 'drafts').click()
      await page.getByRole('button', { name: /^Keep what is tried/ }).click()
      await page.getByLabel('What it is called').fill(name)
      await page.getByRole('button', { name: 'Keep it' }).click()
      await expect(page.getByRole('row', { name: new RegExp(`^${name}`) })).toBeVisible()
    }
    await page.getByLabel('held against').selectOption({ label: 'Merit at 69' })
    await expect(page.getByRole('row', { name: /^Merit at 69 .*held against/ })).toBeVisible()
    await expect(page.getByRole('row', { name: /^Merit at 71 .*↑0 ↓[1-9]/ })).toBeVisible()
    await expect(page.getByRole('row', { name: /^lines of autumn 2025/ })).toBeVisible()
    await page.getByRole('button', { name: 'Discard' }).click()
  })

  await test.step('the widest gap is suggested with how much it moves; it is tried, and a condition beside it', async () => {
    await part(page, 'suggested').click()
    const credit = page.getByRole('row', { name: /^Credit/ })
    await expect(credit.getByText(/^over .* to /)).toBeVisible()
    await credit.getByRole('button', { name: /^Try Credit at/ }).click()
    await expect(page.getByText(/^Trial:/)).toBeVisible()
    await part(page, 'conditions').click()
    await page.getByLabel('The new condition is asked for by').selectOption({ label: 'Credit or above' })
    await page.getByLabel('The new condition asks for at least').fill('55')
    await page.getByLabel('The new condition is on').selectOption({ label: 'Written paper (all)' })
    await page.getByRole('button', { name: 'Try this condition' }).click()
    await expect(page.getByText(/^It holds [1-9]\d* students back\./)).toBeVisible()
    await page.getByRole('complementary', { name: 'Close-up' }).getByRole('listitem').first().getByRole('link').click()
    await expect(page.getByText(/Written paper asks for 55%.* By its percent alone it would be/)).toBeVisible()
    await adopt(page, 'As the regulations have it')
  })

  await test.step('how sure: the doubt is said line by line, and what is not known', async () => {
    await page.goto(`${COURSE}/bound?part=how sure`)
    await expect(page.getByText(/A course percent is off by about ±/)).toBeVisible()
    await expect(page.getByRole('heading', { name: 'Not known' })).toBeVisible()
  })
})

test('signed by two, released, read by a student, handed over, mended, reopened after an appeal, and compared', async ({
  lead: page,
  served,
}) => {
  await settleAll(page)
  await page.goto(`${COURSE}/bound?part=conditions`)
  await page.getByLabel('The new condition is asked for by').selectOption({ label: 'Credit or above' })
  await page.getByLabel('The new condition asks for at least').fill('55')
  await page.getByLabel('The new condition is on').selectOption({ label: 'Written paper (all)' })
  await page.getByRole('button', { name: 'Try this condition' }).click()
  await expect(page.getByText(/^It holds [1-9]\d* students? back\./)).toBeVisible()
  await adopt(page, 'As the regulations have it')

  await test.step('signed by the lead it waits; signed by the external it is in force; the files equal an independent computation', async () => {
    await goTo(page, 'Confirm')
    await page.getByLabel('I sign that').fill('marks are moderated across all sections')
    await page.getByRole('button', { name: 'Sign and freeze' }).click()
    await expect(page.getByText(/does not count yet: an external has to sign/)).toBeVisible()
    await signOut(page, LEAD)
    await comeIn(page, EXTERNAL)
    await goTo(page, 'Confirm')
    await page.getByLabel(/I have looked at it/).fill('standards are comparable')
    await page.getByRole('button', { name: 'Sign too' }).click()
    await expect(page.getByRole('heading', { name: 'Issue 1 is in force' })).toBeVisible()
    const csv = await downloaded(page, 'CSV', 1)
    expect(checkExport(csv.toString('utf8'), independentResults(served.data, 'cfs214-2026'))).toBe(204)
    const json = await downloaded(page, 'JSON', 1)
    expect(csv.toString('utf8')).toContain(createHash('sha256').update(json).digest('hex'))
    await signOut(page, EXTERNAL)
  })

  await test.step('released to everyone; a student reads the result', async () => {
    await comeIn(page, LEAD)
    await goTo(page, 'Confirm')
    await part(page, 'to students').click()
    await page.getByRole('button', { name: 'Release to everyone now' }).click()
    await expect(page.getByText(/^Released to 8 sections/)).toBeVisible()
    await signOut(page, LEAD)
    await page.getByRole('button', { name: /sees own work once it is released/ }).click()
    await expect(page.getByRole('heading', { name: /^Your result: / })).toBeVisible()
    await page.context().clearCookies()
    await page.goto('/')
  })

  await test.step('handed over: two rows are refused, one is mended and sent alone', async () => {
    await comeIn(page, LEAD)
    await goTo(page, 'Confirm')
    await part(page, 'to records').click()
    await page.getByRole('button', { name: 'Hand over 204 results' }).click()
    await expect(page.getByText('202 taken by the office, 2 refused, 0 not sent yet')).toBeVisible()
    const unknown = page.getByRole('row', { name: /knows nobody by the number/ })
    const number = unknown.getByRole('textbox')
    await number.fill(`${await number.inputValue()}-0`)
    await number.press('Enter')
    await page.getByRole('button', { name: 'Send the 1 mended' }).click()
    await expect(page.getByText('203 taken by the office, 1 refused, 0 not sent yet')).toBeVisible()
    await expect(page.getByRole('complementary', { name: 'Close-up' }).getByText(/^receipt RO-/)).toHaveCount(2)
  })

  await test.step('reopened after an appeal: what changes is said before it is signed, and issue 1 stays in force until then', async () => {
    await part(page, 'sign').click()
    await page.getByLabel('Reopen it, because').fill('An appeal about the traverse')
    await page.getByRole('button', { name: 'Reopen' }).click()
    await expect(page.getByText(/issue 1 stays in force until the next one is signed/)).toBeVisible()
    await page.getByRole('link', { name: 'The record' }).click()
    await page.getByRole('row').filter({ hasText: 'asks for 55%' }).click()
    await page.getByLabel('Withdraw it, because').fill('The regulations changed')
    await expect(page.getByText(/grades would change/)).toBeVisible()
    await page.getByRole('button', { name: 'Withdraw' }).click()
    await expect(page.getByText(/^Withdrawn by Ines Valdry/)).toBeVisible()
    await goTo(page, 'Confirm')
    await part(page, 'what differs').click()
    await expect(page.getByText(/^\d+ students differ: [1-9]\d* in grade\. Also different: conditions\./)).toBeVisible()
    await expect(page.getByText('No longer in force')).toBeVisible()
    await part(page, 'sign').click()
    await page.getByLabel('I sign that').fill('marks are moderated, after an appeal')
    await page.getByRole('button', { name: 'Sign and freeze' }).click()
    await expect(page.getByRole('heading', { name: 'Issue 2 is frozen' })).toBeVisible()
    const csv = await downloaded(page, 'CSV', 2)
    expect(checkExport(csv.toString('utf8'), independentResults(served.data, 'cfs214-2026'))).toBe(204)
  })

  await test.step('the report is printed on A4', async () => {
    await part(page, 'report').click()
    await page.getByLabel('Words before Figures by section').fill('The board met on a Friday.')
    await expect(page.getByRole('article').getByText('The board met on a Friday.')).toBeVisible()
    const pdf = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
    expect(pdf.startsWith('%PDF-')).toBe(true)
    const [, width, height] = /\/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)/.exec(pdf)!.map(Number)
    expect([Math.round(width!), Math.round(height!)]).toEqual([595, 842])
  })
})

test('with the keyboard alone: a condition is tried and kept as a draft, and words are written into the report', async ({ page }) => {
  const keys = page.keyboard
  await comeIn(page, LEAD)
  await page.goto(`${COURSE}/bound`)
  await expect(page.getByRole('textbox', { name: 'Merit begins at' })).toBeVisible()

  await test.step('the parts of Bound are walked by key; a condition is tried', async () => {
    for (const name of ['suggested', 'drafts', 'how sure', 'conditions']) {
      await keys.press('}')
      await expect(part(page, name)).toHaveAttribute('aria-pressed', 'true')
    }
    await tabTo(page, page.getByLabel('The new condition is asked for by'))
    await keys.type('Credit')
    await tabTo(page, page.getByLabel('The new condition asks for at least'))
    await keys.press('Control+a')
    await keys.type('55')
    await keys.press('Tab')
    await expect(page.getByLabel('The new condition is on')).toBeFocused()
    await keys.type('Written')
    await tabTo(page, page.getByRole('button', { name: 'Try this condition' }))
    await keys.press('Enter')
    await expect(page.getByText(/^It holds [1-9]\d* students back\./)).toBeVisible()
    await expect(page.getByText(/^Trial:/)).toBeVisible()
  })

  await test.step('it is kept as a draft, and the trial dropped', async () => {
    for (let i = 0; i < 3; i++) await keys.press('}')
    await expect(part(page, 'drafts')).toHaveAttribute('aria-pressed', 'true')
    await keys.press('k')
    await expect(page.getByLabel('What it is called')).toBeFocused()
    await keys.type('With a condition')
    await keys.press('Enter')
    await expect(page.getByRole('row', { name: /^With a condition/ })).toBeVisible()
    await keys.press('Control+Backspace')
    await expect(page.getByText('No trial open')).toBeVisible()
  })

  await test.step('the parts of Confirm are walked by key; words are written into the report', async () => {
    await keys.press('Alt+8')
    await expect(page.getByRole('group', { name: 'Parts of Confirm' })).toBeVisible()
    for (const name of ['what differs', 'to students', 'to records', 'report']) {
      await keys.press(']')
      await expect(part(page, name)).toHaveAttribute('aria-pressed', 'true')
    }
    await tabTo(page, page.getByLabel('Words before Conditions'))
    await keys.type('None was asked for by the board.')
    await expect(page.getByRole('article').getByText('None was asked for by the board.')).toBeVisible()
    await tabTo(page, page.getByLabel('Markers by number'))
    await keys.press('Space')
    await expect(
      page
        .getByRole('article')
        .getByText(/marker 1 /)
        .first(),
    ).toBeVisible()
  })
})
