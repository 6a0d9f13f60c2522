import { readFile } from 'node:fs/promises'
import { parse } from 'csv-parse/sync'
import { stringify } from 'csv-stringify/sync'
import { COURSE, expect, test } from './level-table'

test('a sheet taken out, filled in elsewhere and brought back is merged; a cell both changed is refused with both values', async ({
  lead: page,
}) => {
  await page.goto(`${COURSE}/mark/sheet`)
  await expect(page.getByRole('grid', { name: 'Marks' })).toBeVisible()
  const taken = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Take it out' }).click()
  await page.getByRole('link', { name: 'CSV' }).click()
  const text = await readFile(await (await taken).path(), 'utf8')
  const rows = parse(text, { bom: true, columns: true }) as Record<string, string>[]
  const [first, second] = rows.filter((r) => /^\d+(\.\d)?$/.test(r['Detail survey']!)) as [Record<string, string>, Record<string, string>]
  const written = (changed: Record<string, string>[]) => ({
    name: 'filled in.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(stringify(changed, { header: true })),
  })
  const cellOf = (r: Record<string, string>) => page.getByRole('gridcell', { name: `Detail survey, ${r.name}:` })

  // Meanwhile somebody changes one of the two here.
  await cellOf(first).click()
  await page.keyboard.type('11')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()

  await page.keyboard.press('b')
  const dialog = page.getByRole('dialog')
  const filled = [
    { ...first, 'Detail survey': '12' },
    { ...second, 'Detail survey': '13.5' },
  ]
  await dialog.getByLabel(/CSV, XLSX/).setInputFiles(written(filled))
  await expect(dialog.getByRole('status')).toContainText('1 changed')
  await expect(dialog.getByRole('status')).toContainText('1 refused')
  await expect(dialog.getByRole('row', { name: new RegExp(first.candidate!) }).filter({ hasText: '12' })).toContainText('11')
  await expect(dialog.getByRole('button', { name: /^Bring/ })).toBeDisabled()

  await dialog.getByLabel(/CSV, XLSX/).setInputFiles(written([first, { ...second, 'Detail survey': '13.5' }]))
  await expect(dialog.getByRole('status')).toContainText('0 refused')
  await dialog.getByRole('button', { name: /^Bring/ }).click()
  await expect(dialog).toHaveCount(0)
  await expect(cellOf(second)).toHaveAttribute('aria-label', /: 13\.5$/)
  await expect(cellOf(first)).toHaveAttribute('aria-label', /: 11$/)

  await cellOf(second).click()
  await expect(page.getByText('13.5 by Ines Valdry')).toBeVisible()
})

test('a file with faults says which line and why, and nothing of it is brought in', async ({ lead: page }) => {
  await page.goto(`${COURSE}/mark/sheet`)
  await expect(page.getByRole('grid', { name: 'Marks' })).toBeVisible()
  const numbers = await page
    .getByRole('rowheader')
    .filter({ hasText: /^\d{4}$/ })
    .allTextContents()
  await page.keyboard.press('b')
  const dialog = page.getByRole('dialog')
  const file = `candidate,Detail survey,Viva,Levelling rum\n${numbers[0]},412,,\n0000,10,,\n${numbers[1]},late,50,1\n`
  await dialog.getByLabel(/CSV, XLSX/).setInputFiles({ name: 'faults.csv', mimeType: 'text/csv', buffer: Buffer.from(file) })
  await expect(dialog.getByText(/over the maximum of 40/)).toBeVisible()
  await expect(dialog.getByRole('row', { name: /0000/ }).first()).toContainText(/No student/)
  await expect(dialog.getByText(/marked by readings|settle/).first()).toBeVisible()
  await expect(dialog.getByRole('row', { name: /Levelling rum/ }).first()).toBeVisible()
  await expect(dialog.getByRole('button', { name: /^Bring/ })).toBeDisabled()
  await dialog
    .getByLabel(/CSV, XLSX/)
    .setInputFiles({ name: 'not.xlsx', mimeType: 'application/zip', buffer: Buffer.from('PK\u0003\u0004 nothing') })
  await expect(dialog.getByRole('alert')).toBeVisible()
})
