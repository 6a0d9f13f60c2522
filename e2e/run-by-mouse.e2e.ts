import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { checkExport, independentResults } from './independent'
import { EXTERNAL, comeIn, expect, goTo, LEAD, signOut, test, typeOver } from './level-table'
import { adoptByMouse } from './moderating'

test('the whole run with the mouse, from readings to a confirmed file that agrees with an independent computation', async ({
  lead: page,
  served,
}) => {
  const horizon = page.getByRole('contentinfo', { name: 'Where it stands' })

  await test.step('set out: the sums hold, and a weight is tried', async () => {
    await expect(page.getByText('Every fall equals the weight in the plan.')).toBeVisible()
    await typeOver(page.getByLabel('Weight of Viva'), '15')
    await page.getByLabel('Weight of Viva').press('Enter')
    await typeOver(page.getByLabel('Weight of Written paper'), '10')
    await page.getByLabel('Weight of Written paper').press('Enter')
    await expect(page.getByText('sum 100')).toBeVisible()
    await expect(horizon.getByText(/^Trial:/)).toBeVisible()
    await adoptByMouse(page, 'The viva carries more this year')
  })

  await test.step('agree: the rubric as rulers, and who uses it', async () => {
    await goTo(page, 'Agree')
    await expect(page.getByRole('slider', { name: 'Level 2 of Generalisation' })).toHaveAttribute(
      'aria-valuetext',
      '4 points, some detail shed',
    )
    await expect(page.getByText('CFS 118 autumn 2026', { exact: true })).toBeVisible()
    await page.getByRole('button', { name: 'Spoken defence, five labels' }).click()
    await expect(page.getByRole('slider', { name: 'assured stands for' })).toHaveAttribute('aria-valuenow', '76')
  })

  await test.step('mark: a file with mistakes changes nothing, the good one comes in', async () => {
    await goTo(page, 'Mark')
    await page.getByRole('button', { name: /Bring in a file/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel(/CSV, XLSX/).setInputFiles(join(served.data, 'incoming/stereo-heights-with-mistakes.csv'))
    await expect(dialog.getByRole('status')).toContainText('4 refused')
    await expect(dialog.getByText('A decimal comma is read as a point: 15,5 in line')).toBeVisible()
    await expect(dialog.getByText('42 is over the maximum of 24.')).toBeVisible()
    await expect(dialog.getByRole('button', { name: /^Bring in/ })).toBeDisabled()
    await dialog.getByLabel(/CSV, XLSX/).setInputFiles(join(served.data, 'incoming/stereo-heights-octant.csv'))
    await expect(dialog.getByRole('status')).toContainText('29 added')
    await dialog.getByRole('button', { name: 'Bring in 29 marks' }).click()
    await expect(dialog).toBeHidden()
    await expect(page.getByRole('link', { name: /^Mark, 1 open/ })).toBeVisible()
  })

  await test.step('mark: typing saves, undo takes it back', async () => {
    const grid = page.getByRole('grid', { name: 'Marks' })
    const cell = grid
      .getByRole('row')
      .nth(1)
      .getByRole('gridcell', { name: /^Levelling run/ })
    const before = await cell.getAttribute('aria-label')
    await cell.dblclick()
    await page.keyboard.type('3')
    await page.keyboard.press('Control+a')
    await page.keyboard.type('21.5')
    await page.keyboard.press('Enter')
    await expect(cell).toHaveAttribute('aria-label', /: 21\.5$/)
    await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
    await page.getByRole('button', { name: /^Undo/ }).click()
    await expect(cell).toHaveAttribute('aria-label', before!)
  })

  await test.step('compare: who is in a bar', async () => {
    await goTo(page, 'Compare')
    await page.getByRole('button', { name: 'Heliotrope' }).click()
    await page.locator('[data-bar="5"]').click()
    const heading = page.getByRole('heading', { name: /^\d+ students? from / })
    const listed = Number((await heading.textContent())!.split(' ')[0])
    await expect(page.getByRole('complementary').getByRole('listitem')).toHaveCount(listed)
  })

  await test.step('reconcile: nine over tolerance, the rest in bulk', async () => {
    await goTo(page, 'Reconcile')
    await expect(page.getByRole('heading', { name: '38 scripts to settle' })).toBeVisible()
    await page.getByRole('button', { name: /Settle all 29/ }).click()
    for (let left = 9; left > 0; left--) {
      await expect(page.getByText(`${38 - left} tried`)).toBeVisible()
      await page.getByRole('row').filter({ hasText: 'open' }).first().click()
      await page.getByRole('button', { name: left % 2 === 0 ? /H highest/ : /M mean/ }).click()
    }
    await expect(page.getByText('38 tried')).toBeVisible()
    await adoptByMouse(page, 'Read again with both markers')
  })

  await test.step('rescale: a point is pulled', async () => {
    await goTo(page, 'Rescale')
    await expect(page.getByRole('heading', { name: 'Traverse closure' })).toBeVisible()
    await page.getByRole('button', { name: /pulled points/ }).click()
    const point = page.getByRole('slider', { name: /^Point 3/ })
    const box = (await point.boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2, box.y - 40, { steps: 5 })
    await page.mouse.up()
    await expect(point).not.toHaveAttribute('aria-valuenow', '15')
    await expect(horizon.getByText(/^Trial:/)).toBeVisible()
    await adoptByMouse(page, 'One task proved unfair')
    await expect(page.getByText('1 · pulled points')).toBeVisible()
  })

  await test.step('bound: a line is pulled, the trial says who moves', async () => {
    await goTo(page, 'Bound')
    const line = page.getByRole('slider', { name: 'Merit begins at' })
    const box = (await line.boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + 60)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2 - 16, box.y + 60, { steps: 5 })
    await page.mouse.up()
    await expect(page.getByRole('heading', { name: /^Merit begins at .*, was 70\.0$/ })).toBeVisible()
    await expect(horizon.getByText(/grades? changes?$/)).toBeVisible()
    await adoptByMouse(page, 'Widest gap near the old limit')
  })

  await test.step('confirm: signed, frozen, taken away; the file equals an independent computation', async () => {
    await goTo(page, 'Confirm')
    await typeOver(page.getByLabel('I sign that'), 'marks are moderated across all sections')
    await page.getByRole('button', { name: 'Sign and freeze' }).click()
    await expect(page.getByRole('heading', { name: 'Issue 1 is frozen' })).toBeVisible()
    const download = page.waitForEvent('download')
    await page.getByRole('link', { name: 'CSV' }).first().click()
    const csv = await readFile((await (await download).path())!, 'utf8')
    const graded = checkExport(csv, independentResults(served.data, 'cfs214-2026'))
    expect(graded).toBe(233) // 236 less one held and two absent from the viva
    const workbook = page.waitForEvent('download')
    await page.getByRole('link', { name: 'Results as XLSX' }).click()
    expect((await (await workbook).suggestedFilename()).endsWith('.xlsx')).toBe(true)
  })

  await test.step('a student: what if moves the figure and touches nothing', async () => {
    await page.goto('/courses/cfs214-2026/students/cfs214-2026-student-12')
    const course = page.getByRole('row', { name: /^Course/ })
    const before = await course.textContent()
    await typeOver(page.getByLabel('What if Map project'), '100')
    await page.getByLabel('What if Map project').press('Enter')
    await expect(page.getByText('Nothing in the record is touched.')).toBeVisible()
    await expect(course).not.toHaveText(before!)
    await page.getByRole('button', { name: /Drop the what if/ }).click()
    await expect(course).toHaveText(before!)
    await page.getByRole('button', { name: 'Map project' }).click()
    await expect(page.getByText(/^As marked:.*agreed between readings/)).toBeVisible()
  })

  await test.step('the record: withdrawn only once the course is reopened; the next issue can be compared', async () => {
    await goTo(page, 'Confirm')
    await typeOver(page.getByLabel('Reopen it, because'), 'An appeal about the traverse')
    await page.getByRole('button', { name: 'Reopen' }).click()
    await expect(page.getByRole('heading', { name: 'What is still open' })).toBeVisible()
    await page.getByRole('link', { name: 'The record' }).click()
    await page.getByRole('row').filter({ hasText: 'pulled points' }).click()
    await typeOver(page.getByLabel('Withdraw it, because'), 'The task stands after all')
    await page.getByRole('button', { name: 'Withdraw' }).click()
    await expect(page.getByText(/^Withdrawn by Ines Valdry/)).toBeVisible()
    await goTo(page, 'Confirm')
    await typeOver(page.getByLabel('I sign that'), 'marks are moderated, after an appeal')
    await page.getByRole('button', { name: 'Sign and freeze' }).click()
    await expect(page.getByRole('heading', { name: 'Issue 2 is frozen' })).toBeVisible()
    await page.getByRole('button', { name: 'what differs' }).click()
    await expect(page.getByText(/^\d+ students differ: \d+ in grade/)).toBeVisible()
    await expect(page.getByText(/No longer in force/)).toBeVisible()
  })

  await test.step('the external signs too and can change nothing', async () => {
    await signOut(page, LEAD)
    await comeIn(page, EXTERNAL)
    await goTo(page, 'Confirm')
    await typeOver(page.getByLabel(/I have looked at it/), 'standards are comparable')
    await page.getByRole('button', { name: 'Sign too' }).click()
    await expect(page.getByText(`Signed by ${LEAD} and ${EXTERNAL}.`)).toBeVisible()
    await goTo(page, 'Set out')
    await expect(page.getByLabel('Weight of Viva')).toBeDisabled()
  })
})
