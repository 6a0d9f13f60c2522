import type { Page } from '@playwright/test'
import { VIEWS } from './every-view'
import { comeIn, COURSE, expect, LEAD, test } from './level-table'

const ACTIONS = 'main button:visible:enabled, aside button:visible:enabled'
/** Views that share a visit. */
const TOGETHER = 4
const VISITS = Array.from({ length: Math.ceil(VIEWS.length / TOGETHER) }, (_, i) => VIEWS.slice(i * TOGETHER, (i + 1) * TOGETHER))

interface Action {
  /** Its place among those of the page. */
  at: number
  name: string
}

/** The actions of a view, one of each kind: of those in the rows of a table what begins with the same words. */
const actionsOf = (page: Page): Promise<Action[]> =>
  page.locator(ACTIONS).evaluateAll((buttons) => {
    const kinds = new Map<string, { at: number; name: string }>()
    buttons.forEach((b, at) => {
      if ((b as HTMLElement).tabIndex < 0) return
      const name = (b.getAttribute('aria-label') ?? b.textContent ?? '').trim()
      const kind = name.split(' ').slice(0, 2).join(' ').replace(/\d+/g, '0')
      if (!kinds.has(kind)) kinds.set(kind, { at, name })
    })
    return [...kinds.values()]
  })

const hasFocus = (page: Page) => page.evaluate(() => document.activeElement !== null && document.activeElement !== document.body)

for (const visit of VISITS)
  test(`${visit.map(({ path }) => path).join(', ')}: after every action that is pressed, and after Esc, the focus is somewhere`, async ({
    page,
  }) => {
    test.setTimeout(400_000)
    await comeIn(page, LEAD)
    const open = async (path: string) => {
      await page.goto(`${COURSE}/${path}`)
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible()
      await page.waitForLoadState('networkidle')
    }
    for (const { path } of visit) {
      await open(path)
      for (const [i, { name }] of (await actionsOf(page)).entries()) {
        if (i > 0) await open(path)
        // What was done before may have taken it away.
        const now = (await actionsOf(page)).find((a) => a.name === name)
        if (!now) continue
        const button = page.locator(ACTIONS).nth(now.at)
        await button.focus()
        await button.press('Enter')
        await page.waitForLoadState('networkidle')
        await expect.poll(() => hasFocus(page), { message: `${path}: “${name}” leaves the focus nowhere` }).toBe(true)
        if ((await page.getByRole('dialog').count()) === 0) continue
        await page.keyboard.press('Escape')
        await expect(page.getByRole('dialog')).toHaveCount(0)
        await expect.poll(() => hasFocus(page), { message: `${path}: Esc from “${name}” leaves the focus nowhere` }).toBe(true)
      }
    }
  })
