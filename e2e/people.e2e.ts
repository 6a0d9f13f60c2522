import { comeIn, COURSE, expect, test } from './level-table'

test('a student sees own work and due days, and a mark only once it is released', async ({ page }) => {
  await comeIn2(page)
  await expect(page.getByRole('heading', { name: 'Your work in Field Mapping' })).toBeVisible()
  await expect(page.getByRole('row', { name: /^Field book 1/ })).toContainText(/of 35/)
  await expect(page.getByRole('row', { name: /^Written paper/ })).toContainText('not released')
  await page.getByRole('button', { name: 'Field book 1' }).click()
  const reached = page.getByRole('region', { name: 'What your Field book 1 reached' })
  await expect(reached.getByText(/^\d+(\.5)? of 15$/)).toBeVisible()
  await page.getByRole('button', { name: 'Map project', exact: true }).click()
  await expect(reached).toHaveCount(0)
  await expect(page.getByRole('heading', { name: 'How Map project is judged' })).toBeVisible()
  await page.goto(`${COURSE}/bound`)
  await expect(page.getByText('Where do the grades begin?')).toHaveCount(0)

  async function comeIn2(p: typeof page) {
    await p.goto('/')
    await p.getByRole('button', { name: /sees own work once it is released/ }).click()
  }
})

test('a file whose headings tell nothing is matched by hand; who is missing is asked about and withdrawn only when ticked', async ({
  lead: page,
}) => {
  await page.goto(`${COURSE}/set-out/roll`)
  await page.getByRole('button', { name: 'Groma', exact: false }).first().click()
  const rows = page.getByRole('grid', { name: 'Students' }).getByRole('row')
  const first = rows.nth(1)
  const cells = await first.getByRole('gridcell').allTextContents()
  await page.getByRole('button', { name: /^Bring in a roll/ }).click()
  const dialog = page.getByRole('dialog')
  const text = `Kürzel;Wer;Wo\n${cells[0]};${cells[1]};Groma\n`
  await dialog.getByLabel(/CSV, XLSX/).setInputFiles({ name: 'roll.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await expect(dialog.getByText(/No column was recognised as a candidate number/)).toBeVisible()
  await dialog.getByLabel('candidate', { exact: true }).selectOption('Kürzel')
  await dialog.getByLabel('name', { exact: true }).selectOption('Wer')
  await dialog.getByLabel('section', { exact: true }).selectOption('Wo')
  await expect(dialog.getByRole('status').filter({ hasText: '1 unchanged' })).toBeVisible()
  await dialog.getByText(/235 students on the roll are not in the file and stay/).click()
  await dialog.getByRole('group', { name: 'Who has left' }).getByRole('checkbox').first().check()
  await dialog.getByRole('button', { name: 'Bring in 1 change' }).click()
  await expect(dialog).toBeHidden()
  await expect(page.getByText('235 students in 8 sections, 1 left')).toBeVisible()
})

test('with numbers for markers, a marker’s own sheet holds no name', async ({ lead: page, browser }) => {
  await page.goto(`${COURSE}/set-out/roll`)
  await page.getByRole('button', { name: 'numbers', exact: true }).click()
  await expect(page.getByRole('button', { name: 'numbers', exact: true })).toHaveAttribute('aria-pressed', 'true')
  const own = await browser.newContext({ baseURL: new URL(page.url()).origin })
  const marker = await own.newPage()
  await comeIn(marker, 'Rune Daal')
  await marker.goto(`${COURSE}/mark/sheet`)
  await expect(marker.getByText('29 of 29 students')).toBeVisible()
  const names = await marker.getByRole('rowheader').allTextContents()
  expect(names.length).toBeGreaterThan(5)
  expect(names.filter((n) => /[A-Z][a-z]+ [A-Z]/.test(n))).toEqual([])
  await own.close()
})
