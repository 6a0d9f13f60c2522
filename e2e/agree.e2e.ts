import { COURSE, expect, goTo, test } from './level-table'

const PASTED =
  '<table><tr><th></th><th>Weak (1)</th><th>Fair (2)</th><th>Strong (4)</th></tr>' +
  '<tr><td>Argument<script>window.ran = true</script></td><td>asserted</td><td>supported in part</td><td>supported throughout</td></tr>' +
  '<tr><td>Sources</td><td>none named</td><td><img src=x onerror="window.ran = true">named</td><td>weighed 🗺️ مقارنة</td></tr></table>'

test('a rubric from a document’s table, mended, pulled, put to use in two courses, changed after marking has begun', async ({
  lead: page,
}) => {
  await goTo(page, 'Agree')
  await expect(page.getByRole('heading', { name: 'A map for a reader' })).toBeVisible()

  await test.step('pasted: a table becomes rulers, and nothing in it runs', async () => {
    await page.keyboard.press('t')
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Paste a table').focus()
    await page.evaluate((html) => {
      const clipboardData = new DataTransfer()
      clipboardData.setData('text/html', html)
      document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
    }, PASTED)
    await expect(dialog.getByRole('status')).toContainText('2 criteria, 8 points')
    await expect(dialog.getByRole('img', { name: 'Argument: 1 asserted; 2 supported in part; 4 supported throughout' })).toBeVisible()
    await dialog.getByLabel('Title').fill('Essay')
    await dialog.getByRole('button', { name: 'Make the rubric' }).click()
    await expect(page.getByRole('heading', { name: 'Essay' })).toBeVisible()
    expect(await page.evaluate(() => 'ran' in window)).toBe(false)
    await expect(page.getByText('weighed 🗺️ مقارنة')).toBeVisible()
  })

  await test.step('made: findings mended, a stop pulled by key, a criterion resized and duplicated, all undone', async () => {
    await page.getByRole('button', { name: 'add a level at 0' }).first().click()
    await page.getByRole('button', { name: 'add a level at 0' }).click()
    await expect(page.getByRole('button', { name: 'add a level at 0' })).toHaveCount(0)
    const stop = page.getByRole('slider', { name: 'Level 3 of Argument' })
    await stop.focus()
    await page.keyboard.press('ArrowRight')
    await expect(stop).toHaveAttribute('aria-valuenow', '2.5')
    await page.getByLabel('Maximum of Argument').fill('8')
    await page.getByLabel('Maximum of Argument').press('Enter')
    await expect(stop).toHaveAttribute('aria-valuenow', '5')
    await page.getByRole('button', { name: 'Duplicate Sources' }).click()
    await expect(page.getByLabel('Title of Sources 2')).toBeVisible()
    await page.getByRole('button', { name: /^Undo: duplicate/ }).click()
    await expect(page.getByLabel('Title of Sources 2')).toHaveCount(0)
    await page.getByLabel('Words of level 1 of Argument').fill('no claim')
    await page.getByLabel('Words of level 1 of Sources').fill('none at all')
    await page.getByLabel('Words of level 1 of Sources').blur()
    await expect(page.locator('.findings')).toHaveCount(0)
    await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
    await page.reload()
    await page.getByRole('button', { name: 'Essay' }).click()
    await expect(page.getByRole('slider', { name: 'Level 3 of Argument' })).toHaveAttribute('aria-valuenow', '5')
    await expect(page.getByLabel('Words of level 1 of Argument')).toHaveValue('no claim')
  })

  await test.step('ready, as students see it, and in use in one step', async () => {
    await page.getByRole('button', { name: 'Make it ready' }).click()
    await page.getByRole('button', { name: /As students see it/ }).click()
    await expect(page.locator('.print-sheet').getByText('12 points in all.')).toBeVisible()
    await page.getByRole('button', { name: /^Back/ }).click()
    await page.getByLabel('Assessment to use it in').selectOption('Map project')
    await page.getByRole('button', { name: 'Use it', exact: true }).click()
    await expect(page.getByRole('alert')).toContainText(/^Map project has \d+ readings already/)
    await page.getByRole('button', { name: 'Understood' }).click()
    await page.goto('/courses/cfs118-2026/agree')
    await page.getByLabel('Find in the library').fill('supported throughout')
    await page.getByRole('button', { name: 'Essay' }).click()
    await page.getByLabel('Assessment to use it in').selectOption('Talk at the outcrop')
    await page.getByRole('button', { name: 'Use it', exact: true }).click()
    await expect(page.getByRole('complementary').getByText('CFS 118 autumn 2026')).toBeVisible()
  })

  await test.step('changed after marking has begun: the next version, and what was marked stays as it was', async () => {
    await page.goto(`${COURSE}/agree`)
    await page.getByRole('button', { name: 'A map for a reader' }).click()
    await page.getByLabel('Title of Purpose and reader').fill('Reader and purpose')
    await page.getByLabel('Title of Purpose and reader').press('Enter')
    await expect(page.getByText(/^Version 2, draft/)).toBeVisible()
    await page.goto(`${COURSE}/students/cfs214-2026-student-12`)
    await page.getByRole('button', { name: 'Map project' }).click()
    await expect(page.getByText(/Purpose and reader 8/).first()).toBeVisible()
  })
})

test('a scale and a mark scheme are made by keyboard', async ({ lead: page }) => {
  await goTo(page, 'Agree')
  await page.getByRole('button', { name: 'Make a new…' }).click()
  await page.getByRole('button', { name: 'scale', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'New scale' })).toBeVisible()
  const sound = page.getByRole('slider', { name: 'sound stands for' })
  await sound.focus()
  await page.keyboard.press('PageUp')
  await expect(sound).toHaveAttribute('aria-valuenow', '65')
  await page.getByLabel('Percent of strong').fill('60')
  await page.getByLabel('Percent of strong').press('Enter')
  await expect(page.getByText('strong at 60% does not stand above sound at 65%.')).toBeVisible()
  await page.getByRole('button', { name: 'mend it' }).first().click()
  await page.getByRole('button', { name: 'Read back halfway between neighbours' }).click()
  await expect(page.locator('.findings')).toHaveCount(0)
  await page.getByRole('button', { name: 'Make a new…' }).click()
  await page.getByRole('button', { name: 'mark scheme', exact: true }).click()
  await page.getByRole('button', { name: /Another part/ }).click()
  await page.getByLabel('Points of Part 2').fill('2.5')
  await page.getByLabel('Points of Part 2').press('Enter')
  await expect(page.getByText(/12\.5 points/)).toBeVisible()
})
