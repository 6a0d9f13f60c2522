import type { Locator, Page } from '@playwright/test'
import { expect, goTo, typeOver } from './level-table'

/** Tabs until the thing has the focus; a person's way there, bounded. */
export async function tabTo(page: Page, target: Locator): Promise<void> {
  for (let i = 0; i < 160; i++) {
    if (await target.evaluate((el) => el === document.activeElement).catch(() => false)) return
    await page.keyboard.press('Tab')
  }
  throw new Error(`cannot be reached with Tab: ${target}`)
}

/** The focus is where one goes on, and never nowhere. */
export const expectFocus = (page: Page, after: string): Promise<void> =>
  expect
    .poll(() => page.evaluate(() => (document.activeElement ?? document.body).tagName), `where the focus is after ${after}`)
    .not.toBe('BODY')

/** Goes to another stop by its number: the focus goes to its heading. */
export async function goByKey(page: Page, number: number, heading: string | RegExp): Promise<void> {
  await page.keyboard.press(`Alt+${number}`)
  await expect(page.getByRole('heading', { level: 1, name: heading })).toBeFocused()
}

/** Adopts what is tried, with a reason, by keyboard alone. */
export async function adopt(page: Page, why: string): Promise<void> {
  await page.keyboard.press('Control+Enter')
  await expect(page.getByLabel('Why (kept in the record)')).toBeFocused()
  await page.keyboard.type(why)
  await page.keyboard.press('Enter')
  await isAdopted(page)
  await expectFocus(page, 'adopting')
}

/** Adopts what is tried, with a reason, by mouse. */
export async function adoptByMouse(page: Page, why: string): Promise<void> {
  await page.getByRole('button', { name: 'Adopt', exact: true }).click()
  const dialog = page.getByRole('dialog')
  await typeOver(dialog.getByLabel('Why (kept in the record)'), why)
  await dialog.getByRole('button', { name: 'Adopt' }).click()
  await isAdopted(page)
}

async function isAdopted(page: Page): Promise<void> {
  await expect(page.getByRole('dialog')).toBeHidden()
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

/** Keeps what is tried as an idea, from any part of Rescale. */
export async function keepIdea(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'ideas', exact: true }).click()
  await page.getByRole('button', { name: /^Keep what is tried/ }).click()
  await page.getByLabel('What it is called').fill(name)
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByRole('row', { name: new RegExp(`^${name}`) })).toBeVisible()
}

/** Tries, at the total, that everybody has three percents more. */
export async function tryThreeMore(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'the total', exact: true }).click()
  await page.getByRole('button', { name: /^add the same/ }).click()
  await page.getByLabel('percents to add').fill('3')
  await page.getByLabel('percents to add').press('Enter')
  await expect(page.getByRole('button', { name: '1 · add the same, +3.0' })).toBeVisible()
}
