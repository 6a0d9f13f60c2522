import { readFile } from 'node:fs/promises'
import { checkExport, independentResults } from './independent'
import { expect, test } from './level-table'
import { adopt, tabTo } from './moderating'

test('the whole run with the keyboard alone', async ({ page, served }) => {
  const keys = page.keyboard
  // The mouse is never used: anything that clicks would fail here.
  await page.goto('/')
  await tabTo(page, page.getByRole('button', { name: 'Ines Valdry' }))
  await keys.press('Enter')
  await page.getByRole('navigation', { name: 'The run of work' }).waitFor()

  await test.step('set out: weight moves between neighbours', async () => {
    const divider = page.getByRole('slider', { name: 'Between Viva and Written paper' })
    await tabTo(page, divider)
    await keys.press('PageUp')
    await expect(page.getByLabel('Weight of Viva')).toHaveValue('15')
    await expect(page.getByLabel('Weight of Written paper')).toHaveValue('10')
    await adopt(page, 'The viva carries more')
  })

  await test.step('mark: type every mark of the last practical in, with statuses by letter', async () => {
    await keys.press('Alt+3')
    await expect(page.getByRole('grid', { name: 'Marks' })).toBeVisible()
    await tabTo(page, page.getByLabel('Section', { exact: true }))
    await keys.type('Octant')
    await expect(page.getByText('29 of 236 students')).toBeVisible()
    await tabTo(page, page.locator('[data-here]'))
    for (let i = 0; i < 7; i++) await keys.press('ArrowRight')
    await expect(page.locator('[data-here]')).toHaveAttribute('aria-label', /^Stereo heights/)
    for (let i = 0; i < 29; i++) {
      await keys.type(i === 3 ? 'm' : i === 5 ? '17 late 2' : String(12 + (i % 9)))
      await keys.press('Enter')
    }
    await expect(page.getByRole('link', { name: 'Mark, 1 open' })).toBeVisible()
    await keys.press('ArrowUp')
    await keys.type('99')
    await keys.press('Enter')
    await expect(page.getByText('1 cell is not saved')).toBeVisible()
    await expect(page.getByRole('gridcell', { name: /99 is over the maximum of 24/ })).toBeVisible()
  })

  await test.step('compare: sections and bars by arrow', async () => {
    await keys.press('Alt+4')
    await expect(page.getByRole('heading', { name: 'Are the sections on one level?' })).toBeVisible()
    await keys.press('ArrowRight')
    await keys.press('ArrowRight')
    await expect(page.getByRole('heading', { name: /students? from \d/ })).toBeVisible()
  })

  await test.step('reconcile: m, h, a marker, own mark with a reason, bulk', async () => {
    await keys.press('Alt+5')
    await expect(page.getByRole('heading', { name: '38 scripts to settle' })).toBeVisible()
    for (const key of ['m', 'h', 'l', 'd', '1', '2', 'm']) await keys.press(key)
    await expect(page.getByText('7 tried')).toBeVisible()
    await keys.press('o')
    await keys.type('55')
    await keys.press('Tab')
    await keys.type('Read a third time at the board')
    await keys.press('Enter')
    await expect(page.getByText('8 tried')).toBeVisible()
    await keys.press('m')
    await keys.press('b')
    await expect(page.getByText('38 tried')).toBeVisible()
    await keys.press('Control+z')
    await expect(page.getByText('29 scripts within tolerance wait')).toBeVisible()
    await keys.press('Control+y')
    await adopt(page, 'Settled at the board')
  })

  await test.step('rescale: a point walked up', async () => {
    await keys.press('Alt+6')
    await expect(page.getByRole('heading', { name: 'Traverse closure' })).toBeVisible()
    await keys.press('5')
    const point = page.getByRole('slider', { name: /^Point 3/ })
    await tabTo(page, point)
    for (let i = 0; i < 6; i++) await keys.press('ArrowUp')
    await expect(point).toHaveAttribute('aria-valuetext', '15 becomes 18')
    await adopt(page, 'One task proved unfair')
  })

  await test.step('bound: stepped by key', async () => {
    await keys.press('Alt+7')
    await expect(page.getByRole('heading', { name: 'Merit begins at 70.0' })).toBeVisible()
    await keys.press('ArrowLeft')
    await keys.press('ArrowLeft')
    await expect(page.getByRole('heading', { name: 'Merit begins at 69.0, was 70.0' })).toBeVisible()
    await adopt(page, 'Widest gap')
  })

  await test.step('confirm, and the file equals an independent computation', async () => {
    await keys.press('Alt+8')
    await tabTo(page, page.getByLabel('I sign that'))
    await keys.type('marks are moderated')
    await keys.press('Enter')
    await expect(page.getByRole('heading', { name: 'Issue 1 is frozen' })).toBeVisible()
    await tabTo(page, page.getByRole('link', { name: 'CSV' }).first())
    const download = page.waitForEvent('download')
    await keys.press('Enter')
    const csv = await readFile((await (await download).path())!, 'utf8')
    expect(checkExport(csv, independentResults(served.data, 'cfs214-2026'))).toBe(233)
    await keys.press('?')
    await expect(page.getByRole('dialog').getByText('go to Bound')).toBeVisible()
  })
})
