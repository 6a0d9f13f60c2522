import { readFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'
import { checkExport, independentResults } from './independent'
import { adopt, keepIdea, settleAll, tryThreeMore } from './moderating'
import { comeIn, expect, goTo, LEAD, test } from './level-table'

const horizonOf = (page: Page) => page.getByRole('contentinfo', { name: 'Where it stands' })
const AT = '/courses/cfs214-2026/rescale'

async function confirmedFile(page: Page): Promise<string> {
  await goTo(page, 'Confirm')
  await page.getByLabel('I sign that').fill('marks are moderated across all sections')
  await page.getByRole('button', { name: 'Sign and freeze' }).click()
  await expect(page.getByRole('heading', { name: /^Issue \d is frozen/ })).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'CSV' }).first().click()
  return readFile((await (await download).path())!, 'utf8')
}

test('a question left out, a section matched, a lean taken out at half, the total lifted; compared, mended, withdrawn', async ({
  lead: page,
  served,
}) => {
  const horizon = horizonOf(page)
  await settleAll(page)

  await test.step('one question was unfair: it is left out for all', async () => {
    await page.goto(`${AT}?of=cfs214-2026-map`)
    await page.getByLabel('what is wrong').selectOption('question')
    await page.getByRole('button', { name: /^leave a criterion out/ }).click()
    await page.getByRole('checkbox', { name: /^Generalisation/ }).click()
    await expect(page.getByRole('button', { name: '1 · leave a criterion out' })).toBeVisible()
    await expect(horizon.getByText(/^Trial: \d+ grades change/)).toBeVisible()
    await adopt(page, 'Nobody was taught it')
  })

  await test.step('a marker’s lean is taken out at half strength', async () => {
    await page.getByRole('button', { name: /^A new one/ }).click()
    await page.getByLabel('what is wrong').selectOption('marker')
    await page.getByRole('button', { name: /^a marker’s lean/ }).click()
    await page.getByLabel('Whose lean').selectOption({ label: 'Sabine Imre, −5.2' })
    await page.getByLabel('How much of it in percent').fill('50')
    await page.getByLabel('How much of it in percent').press('Enter')
    await expect(page.getByRole('button', { name: '2 · lean of Sabine Imre, −5.2, at 50%' })).toBeVisible()
    await adopt(page, 'Half of what she leans')
  })

  await test.step('a section sat an easier paper: it is matched to the others, and a difference within chance is said to be so', async () => {
    await page.goto(`${AT}?of=cfs214-2026-traverse`)
    await page.getByLabel('what is wrong').selectOption('section')
    await page.getByRole('button', { name: /^mean and spread of/ }).click()
    await page.getByRole('button', { name: /^for all sections/ }).click()
    await page.getByRole('checkbox', { name: 'Alidade' }).click()
    await page.keyboard.press('Escape')
    await page.getByLabel('Which group to match').selectOption('others')
    await expect(page.getByText(/below that group .* within chance/)).toBeVisible()
    await expect(page.getByRole('button', { name: '1 · mean and spread of all the others, Alidade' })).toBeVisible()
    await adopt(page, 'Sat in the rain')
  })

  await test.step('the total: the best to 100, kept beside everyone +3, and picked', async () => {
    await page.goto(`${AT}?part=the total`)
    await page.getByRole('button', { name: /^top to/ }).click()
    await expect(page.getByRole('button', { name: '1 · top to 100' })).toBeVisible()
    await keepIdea(page, 'Best is 100')
    await tryThreeMore(page)
    await keepIdea(page, 'Everyone more by 3')
    await page.getByRole('button', { name: 'Best is 100' }).click()
    await page.getByRole('button', { name: /^Try it/ }).click()
    await adopt(page, 'The best paper was worth full marks')
    await expect(page.getByRole('row', { name: /^Everyone more by 3/ })).toBeVisible()
  })

  await test.step('what was adopted is mended, and the record shows both', async () => {
    await page.goto(`${AT}?of=cfs214-2026-traverse`)
    await page.getByRole('button', { name: /^1 · mean and spread/ }).click()
    await page.getByLabel('Mean to match').fill('15.5')
    await page.getByLabel('Mean to match').press('Enter')
    await expect(page.getByText('adopted, changed in the trial')).toBeVisible()
    await adopt(page, 'A little more')
    await page.getByRole('link', { name: 'The record' }).click()
    await expect(page.getByRole('row').filter({ hasText: 'Traverse closure in Alidade brought to mean' })).toHaveCount(2)
  })

  await test.step('what a withdrawal would do is said before it is done', async () => {
    await page.getByRole('row').filter({ hasText: 'with the lean of Sabine Imre, −5.2' }).click()
    await expect(page.getByText(/percents? and \d+ grades? would change/)).toBeVisible()
    await page.getByLabel('Withdraw it, because').fill('She read again')
    await page.getByRole('button', { name: 'Withdraw', exact: true }).click()
    await expect(page.getByText(/^Withdrawn by Ines Valdry/)).toBeVisible()
  })

  await test.step('the exported file equals an independent computation', async () => {
    const csv = await confirmedFile(page)
    expect(csv.split('\n')[0]).toContain('course %, rescaled')
    expect(checkExport(csv, independentResults(served.data, 'cfs214-2026'))).toBeGreaterThan(180)
  })
})

test('with the keyboard alone: a way by its number, a point walked, another order, an idea kept and tried, and the weights', async ({
  page,
}) => {
  const keys = page.keyboard
  await comeIn(page, LEAD)
  await page.goto(AT)
  await expect(page.getByRole('heading', { name: 'Traverse closure' })).toBeVisible()
  await keys.press('1')
  await expect(page.getByRole('button', { name: '1 · add the same, 0.0' })).toBeVisible()
  await page.getByLabel('marks to add').focus()
  await keys.press('ArrowUp')
  await keys.press('ArrowUp')
  await expect(page.getByRole('button', { name: '1 · add the same, +1.0' })).toBeVisible()
  await keys.press('Escape')
  await keys.press('n')
  await keys.press('2')
  await expect(page.getByRole('button', { name: '2 · multiply by 1' })).toBeVisible()
  await page.getByRole('button', { name: '2 · multiply by 1' }).focus()
  await keys.press('Alt+ArrowUp')
  await expect(page.getByRole('button', { name: '1 · multiply by 1' })).toBeVisible()
  await keys.press('Escape')
  for (const heading of ['What decides the grade?', 'Course percent']) {
    await keys.press(']')
    await expect(page.getByRole('heading', { name: heading })).toBeVisible()
  }
  await keys.press(']')
  await expect(page.getByRole('heading', { name: 'Which of these?' })).toBeVisible()
  await keys.press('k')
  await expect(page.getByLabel('What it is called')).toBeFocused()
  await keys.type('One more')
  await keys.press('Enter')
  await expect(page.getByRole('row', { name: /^One more/ })).toBeVisible()
  await keys.press('Control+Backspace')
  await expect(page.getByText('No trial open')).toBeVisible()
  await expect(page.getByRole('row', { name: /^what is tried now/ })).toBeHidden()
  await keys.press('t')
  await expect(horizonOf(page).getByText(/^Trial:/)).toBeVisible()
})
