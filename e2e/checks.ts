import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect } from './level-table'

const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

/** As the page is; then in the dark theme and in colours that the system sets, which differ in nothing but their colours. */
export async function expectNoFindings(page: Page, what: string): Promise<void> {
  await page.emulateMedia({ colorScheme: 'light' })
  expect.soft(await findings(page), what).toEqual([])
  await page.emulateMedia({ colorScheme: 'dark' })
  expect.soft(await findings(page, ['color-contrast']), `${what}, dark`).toEqual([])
  await page.emulateMedia({ colorScheme: 'light', forcedColors: 'active' })
  expect.soft(await findings(page, ['color-contrast']), `${what}, in forced colours`).toEqual([])
  await page.emulateMedia({ colorScheme: 'light', forcedColors: 'none' })
}

/** What the automated checks have to say of a page. */
export async function findings(page: Page, rules?: string[]): Promise<string[]> {
  const axe = new AxeBuilder({ page })
  const { violations } = await (rules ? axe.withRules(rules) : axe.withTags(WCAG)).analyze()
  return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')} — ${n.failureSummary?.split('\n')[1]?.trim()}`))
}

/** Pixels that may be scrolled past to what was chosen. */
const HIGHEST = 8000
/** Long tables scroll in themselves. */
export const expectNotEndless = async (page: Page, what: string): Promise<void> =>
  expect(await page.evaluate(() => document.documentElement.scrollHeight), `${what} is how high`).toBeLessThan(HIGHEST)

/** How far the page is wider than what is seen of it, once charts have taken their width. */
export const expectNoSideways = (page: Page, what: string): Promise<void> =>
  expect
    .poll(
      () => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
      `${what} scrolls sideways`,
    )
    .toBeLessThanOrEqual(1)
