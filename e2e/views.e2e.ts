import type { Page } from '@playwright/test'
import { expectNoFindings, expectNoSideways, expectNotEndless, findings } from './checks'
import { VIEWS, type View } from './every-view'
import { comeIn, COURSE, expect, LEAD, test } from './level-table'
import { listening } from './listening'
import { settling } from './settled'

/** Views that share a visit: a test of its own for each few, so that they are walked side by side. */
const TOGETHER = 4
const VISITS = Array.from({ length: Math.ceil(VIEWS.length / TOGETHER) }, (_, i) => VIEWS.slice(i * TOGETHER, (i + 1) * TOGETHER))
const ACTIONS = 'main button:visible:enabled, aside button:visible:enabled'

for (const visit of VISITS)
  test(`${visit.map(({ path }) => path).join(', ')}: the automated checks, narrow and wide, no word in the console, and the focus after every action`, async ({
    page,
  }) => {
    // Many actions, each awaited: on a busy machine that is minutes.
    test.setTimeout(900_000)
    const said = await listening(page)
    const settled = settling(page)
    await comeIn(page, LEAD)
    for (const view of visit) {
      const open = async (name?: string) => {
        await page.goto(`${COURSE}/${view.path}`)
        await expect(page.getByRole('heading', { level: 1, name }).first()).toBeVisible()
        await settled()
      }
      await open(view.heading)
      if (view.path === 'rescale') await page.keyboard.press('5')
      await look(page, view)
      expect.soft(said.splice(0)).toEqual([])
      await press(page, view.path, settled, open)
      // The browser also logs requests that were refused with a sentence.
      expect.soft(said.splice(0).filter((s) => !/status of 4(09|22)/.test(s))).toEqual([])
    }
  })

/** What the automated checks and a narrow window have to say. */
async function look(page: Page, { path, template }: View): Promise<void> {
  if (template) await expectNoFindings(page, path)
  else expect.soft(await findings(page), path).toEqual([])
  const { width, height } = page.viewportSize()!
  for (const narrow of [width / 2, 390, 320]) {
    await page.setViewportSize({ width: narrow, height: height / 2 })
    await expectNoSideways(page, `${path} at ${narrow} pixels`)
    await expectNotEndless(page, `${path} at ${narrow} pixels`)
    if (template && narrow > 320) expect.soft(await findings(page), `${path} at ${narrow} pixels`).toEqual([])
  }
  await page.setViewportSize({ width, height })
}

/** The actions of a view, one of each kind: of those in the rows of a table what begins with the same words. */
const actionsOf = (page: Page): Promise<{ at: number; name: string }[]> =>
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

/** Presses every action of a view: after each, and after Esc, the focus is somewhere. What leads away is gone back from. */
async function press(page: Page, path: string, settled: () => Promise<void>, open: () => Promise<void>): Promise<void> {
  const expectFocus = (after: string) =>
    expect
      .poll(() => page.evaluate(() => document.activeElement !== null && document.activeElement !== document.body), {
        message: `${path}: ${after} leaves the focus nowhere`,
      })
      .toBe(true)
  const here = page.url()
  for (const { name } of await actionsOf(page)) {
    // What was done before may have taken it away.
    const now = (await actionsOf(page)).find((a) => a.name === name)
    if (!now) continue
    const button = page.locator(ACTIONS).nth(now.at)
    await button.focus()
    await button.press('Enter')
    await settled()
    await expectFocus(`“${name}”`)
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
    await settled()
    if (page.url() === here) await expectFocus(`Esc from “${name}”`)
    // One may have been led to a page that was opened anew, which begins at its start.
    else await open()
  }
}
