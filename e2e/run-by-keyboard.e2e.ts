import { readFile } from 'node:fs/promises'
import { checkExport, independentResults } from './independent'
import { expect, test } from './level-table'
import { adopt, expectFocus, goByKey, tabTo } from './moderating'

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
    await keys.press('PageUp')
    await expect(page.getByLabel('Weight of Viva')).toHaveValue('20')
    await keys.press('Escape')
    await expectFocus(page, 'Esc at a divider')
    await tabTo(page, divider)
    await keys.press('PageDown')
    await adopt(page, 'The viva carries more')
  })

  await test.step('agree: through the library by arrow, to a label of a scale', async () => {
    await goByKey(page, 2, 'A map for a reader')
    const chosen = page.getByRole('button', { name: 'Spoken defence, five labels' })
    for (let i = 0; i < 5; i++) {
      await keys.press('ArrowDown')
      await expectFocus(page, 'the next in the library')
    }
    await expect(chosen).toHaveAttribute('aria-pressed', 'true')
    await tabTo(page, page.getByRole('slider', { name: 'assured stands for' }))
  })

  await test.step('mark: type every mark of the last practical in, with statuses by letter', async () => {
    await keys.press('Alt+3')
    // The sheet begins where one types.
    await expect(page.getByRole('grid', { name: 'Marks' }).locator('[data-here]')).toBeFocused()
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
    await expectFocus(page, 'a mark that is refused')
  })

  await test.step('compare: sections and bars by arrow', async () => {
    await goByKey(page, 4, 'Are the sections on one level?')
    await keys.press('ArrowRight')
    await keys.press('ArrowRight')
    await expect(page.getByRole('heading', { name: /students? from \d/ })).toBeVisible()
    await expectFocus(page, 'a bar that is chosen')
  })

  await test.step('reconcile: m, h, a marker, own mark with a reason, bulk', async () => {
    await goByKey(page, 5, '38 scripts to settle')
    for (const key of ['m', 'h', 'l', 'd', '1', '2', 'm']) {
      await keys.press(key)
      await expectFocus(page, `settling by ${key}`)
    }
    await expect(page.getByText('7 tried')).toBeVisible()
    await keys.press('o')
    await keys.type('55')
    await keys.press('Tab')
    await keys.type('Read a third time at the board')
    await keys.press('Enter')
    await expect(page.getByText('8 tried')).toBeVisible()
    await expectFocus(page, 'a mark of one’s own')
    await keys.press('m')
    await keys.press('b')
    await expect(page.getByText('38 tried')).toBeVisible()
    await expectFocus(page, 'settling all')
    await keys.press('Control+z')
    await expect(page.getByText('29 scripts within tolerance wait')).toBeVisible()
    await keys.press('Control+y')
    await adopt(page, 'Settled at the board')
  })

  await test.step('rescale: a point walked up', async () => {
    await goByKey(page, 6, 'Traverse closure')
    await keys.press('5')
    const point = page.getByRole('slider', { name: /^Point 3/ })
    await tabTo(page, point)
    for (let i = 0; i < 6; i++) await keys.press('ArrowUp')
    await expect(point).toHaveAttribute('aria-valuetext', '15 becomes 18')
    await adopt(page, 'One task proved unfair')
  })

  await test.step('bound: stepped by key', async () => {
    await goByKey(page, 7, 'Where do the grades begin?')
    await expect(page.getByRole('heading', { name: 'Merit begins at 70.0' })).toBeVisible()
    await keys.press('ArrowLeft')
    await keys.press('ArrowLeft')
    await expect(page.getByRole('heading', { name: 'Merit begins at 69.0, was 70.0' })).toBeVisible()
    await keys.press('Control+Backspace')
    await expectFocus(page, 'discarding')
    await keys.press('ArrowLeft')
    await keys.press('ArrowLeft')
    await adopt(page, 'Widest gap')
  })

  await test.step('confirm, and the file equals an independent computation', async () => {
    await goByKey(page, 8, 'What is still open')
    await tabTo(page, page.getByLabel('I sign that'))
    await keys.type('marks are moderated')
    await keys.press('Enter')
    await expect(page.getByRole('heading', { name: 'Issue 1 is frozen' })).toBeVisible()
    await expectFocus(page, 'signing')
    await tabTo(page, page.getByRole('link', { name: 'CSV' }).first())
    const download = page.waitForEvent('download')
    await keys.press('Enter')
    const csv = await readFile((await (await download).path())!, 'utf8')
    expect(checkExport(csv, independentResults(served.data, 'cfs214-2026'))).toBe(233)
    await keys.press('?')
    await expect(page.getByRole('dialog').getByText('go to Bound')).toBeVisible()
    await keys.press('Escape')
    await expect(page.getByRole('dialog')).toBeHidden()
    await expectFocus(page, 'a dialog that is left')
  })
})
