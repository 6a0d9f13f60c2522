import type { Page } from '@playwright/test'
import { expect, goTo } from './level-table'

/** Adopts what is tried, with a reason. */
export async function adopt(page: Page, why: string): Promise<void> {
  await page.keyboard.press('Control+Enter')
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Why (kept in the record)').fill(why)
  await page.keyboard.press('Enter')
  await expect(dialog).toBeHidden()
  await expect(page.getByText('No trial open')).toBeVisible()
}

/** Settles all that is open in the demo, by the mean. */
export async function settleAll(page: Page): Promise<void> {
  await goTo(page, 'Reconcile')
  await page.getByRole('button', { name: /Settle all 29/ }).click()
  for (let left = 9; left > 0; left--) {
    await expect(page.getByText(`${38 - left} tried`)).toBeVisible()
    await page.getByRole('row').filter({ hasText: 'open' }).first().click()
    await page.getByRole('button', { name: /M mean/ }).click()
  }
  await expect(page.getByText('38 tried')).toBeVisible()
  await adopt(page, 'Read again with both markers')
}
