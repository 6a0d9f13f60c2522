import { COURSE, expect, test } from './level-table'

test('a remark is written beside a mark; the assessment is taken out with it, and comes in again as another, at 200%', async ({
  lead: page,
}) => {
  const words = 'The loop does not close at station 3.'
  await test.step('the remark', async () => {
    await page.goto(`${COURSE}/mark/sheet`)
    await page
      .getByRole('gridcell', { name: /^Levelling run, .*: \d+(\.5)?$/ })
      .first()
      .click()
    const remark = page.getByRole('textbox', { name: /^Remark for the student/ })
    await remark.fill(words)
    await remark.press('Control+Enter')
    await expect(page.getByText('remark written')).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(remark).toHaveValue('')
    await page.keyboard.press('Control+Shift+z')
    await expect(remark).toHaveValue(words)
  })

  // Twice as large: the close-up stands beneath the plan, and comes up over it.
  await page.setViewportSize({ width: 640, height: 400 })
  await page.goto(`${COURSE}/set-out/plan`)
  const closeUp = page.getByRole('complementary', { name: 'Close-up' })
  const taken = await test.step('taken out', async () => {
    await page.getByRole('button', { name: 'Move Levelling run', exact: true }).focus()
    await page.keyboard.press('u')
    await expect(closeUp).toBeFocused()
    await expect(closeUp).toBeInViewport({ ratio: 0.5 })
    const coming = page.waitForEvent('download')
    await closeUp.getByRole('link', { name: 'Data Package' }).click()
    await page.getByRole('button', { name: /^put it away/ }).click()
    return (await coming).path()
  })

  await test.step('brought in', async () => {
    await page.getByRole('button', { name: 'From a package' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel(/^A data package/).setInputFiles(taken)
    await expect(dialog.getByRole('status')).toContainText('Levelling run 2')
    await dialog.getByRole('button', { name: 'Add it' }).click()
    await expect(closeUp.getByRole('heading', { name: 'Levelling run 2' })).toBeAttached()
  })

  await test.step('its marks are those of the sheet', async () => {
    await page.setViewportSize({ width: 1280, height: 800 })
    await page.goto(`${COURSE}/mark/sheet`)
    await page.getByRole('button', { name: /^Bring in a file/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel(/CSV, XLSX/).setInputFiles(taken)
    await expect(dialog.getByRole('status')).toContainText(/0 added · 0 changed · \d+ unchanged · 0 refused/)
  })
})
