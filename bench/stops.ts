import { readFileSync } from 'node:fs'
import type { Browser, Page } from '@playwright/test'
import type { CourseHead } from '#contract'
import { figures } from './figures'
import { withLarge } from './large'

const COURSE = '/courses/cfs214-2026'
/** What is there once a stop is drawn. */
const DRAWN: Record<string, (page: Page) => Promise<unknown>> = {
  Compare: (page) => page.locator('main td[data-drawn]').nth(5).waitFor(),
  Reconcile: (page) => page.locator('main svg.readings-line').first().waitFor(),
  Rescale: (page) => page.getByRole('heading', { name: 'What it does' }).waitFor(),
  Bound: (page) => page.getByRole('textbox', { name: 'Merit begins at' }).waitFor(),
  Confirm: (page) =>
    page
      .getByRole('heading', { name: /open|confirmed/ })
      .first()
      .waitFor(),
  Mark: (page) => page.getByRole('gridcell').first().waitFor(),
}

/** Opening each stop of a large course, what a step takes, the page's memory, and other people's wait. */
export async function benchStops(): Promise<void> {
  await withLarge(async ({ address, browser, page }) => {
    page.setDefaultTimeout(120_000)
    const others = waitOfOthers(address)
    await page.goto('/')
    await page.getByRole('button', { name: 'Ines Valdry' }).click()
    await page.getByRole('navigation', { name: 'The run of work' }).waitFor()
    console.log(`\nThe stops, ${await size(page)}`)
    for (const [stop, drawn] of Object.entries(DRAWN)) {
      const began = performance.now()
      await page.goto(`${COURSE}/${stop.toLowerCase()}`)
      await drawn(page)
      console.log(`  ${stop.padEnd(10)} from nothing:      ${seconds(began)}`)
    }
    // In a page of its own: what earlier pages left behind is not this one's.
    const own = await page.context().newPage()
    own.setDefaultTimeout(120_000)
    await page.close()
    await visit(own, browser)
    await moderate(own)
    await steps(own)
    const waited = figures(await others.stop())
    console.log(
      `  other people meanwhile: p50 ${waited.p50.toFixed(0)} ms, p99 ${waited.p99.toFixed(0)} ms, longest ${waited.most.toFixed(0)} ms`,
    )
  })
}

/** Every stop from another one, and what the page holds after that. */
async function visit(page: Page, browser: Browser): Promise<void> {
  await page.goto(`${COURSE}/bound`)
  await DRAWN.Bound!(page)
  for (const [stop, drawn] of [...Object.entries(DRAWN), ...Object.entries(DRAWN)]) {
    const began = performance.now()
    await page
      .getByRole('navigation', { name: 'The run of work' })
      .getByRole('link', { name: new RegExp(`^${stop}`) })
      .click()
    await drawn(page)
    console.log(`  ${stop.padEnd(10)} from another stop: ${seconds(began)}`)
  }
  const session = await page.context().newCDPSession(page)
  await session.send('HeapProfiler.collectGarbage')
  console.log(`  page memory: ${Math.round(await memory(browser))} MB`)
}

/** Compare by what is not sections, standings, and all that waits within tolerance settled in one go. */
async function moderate(page: Page): Promise<void> {
  const timed = async (words: string, act: () => Promise<unknown>) => {
    const began = performance.now()
    await act()
    console.log(`  ${words.padEnd(29)} ${seconds(began)}`)
  }
  await page.goto(`${COURSE}/agree`)
  const standings = page.getByRole('link', { name: 'standings' })
  await standings.waitFor()
  await page.getByRole('contentinfo', { name: 'Where it stands' }).getByText(/final/).waitFor()
  await timed('Standings:', async () => {
    await standings.click()
    await page
      .getByRole('img', { name: /, (not )?reached, / })
      .first()
      .waitFor()
  })
  await page.goto(`${COURSE}/compare`)
  await DRAWN.Compare!(page)
  const rows = page.getByRole('combobox', { name: 'Rows', exact: true })
  await timed('Compare, by markers:', async () => {
    await rows.selectOption('markers')
    await page.getByRole('heading', { name: /hold one standard/ }).waitFor()
    await page.locator('main tr.pick').first().waitFor()
  })
  await timed('Compare, given other work:', async () => {
    await rows.selectOption('sections')
    await DRAWN.Compare!(page)
    await page.keyboard.press('g')
    await page.getByRole('columnheader', { name: 'so', exact: true }).waitFor()
  })
  await page.goto(`${COURSE}/reconcile`)
  await DRAWN.Reconcile!(page)
  const all = page.getByRole('button', { name: /^Settle all/ })
  if (await all.isVisible())
    await timed(`${(await all.textContent())!.replace('B', '')}:`, async () => {
      await all.click()
      await page.getByText(/\d tried/).waitFor()
    })
  await discard(page)
  await timed('Where to look next:', async () => {
    await page.keyboard.press('w')
    await page.getByText(/grades may be wrong/).waitFor()
  })
}

/** What a step of a boundary and a mark take to reach the horizon. */
async function steps(page: Page): Promise<void> {
  await page.goto(`${COURSE}/bound`)
  await DRAWN.Bound!(page)
  const bounds: Reached[] = []
  // Always to where it has not been, so that there is something to say.
  for (let i = 0; i < 15; i++) bounds.push(await untilHorizon(page, () => page.keyboard.press('ArrowRight')))
  tell('a boundary step to the horizon', bounds)
  await discard(page)
  await page.goto(`${COURSE}/rescale`)
  await DRAWN.Rescale!(page)
  await page.keyboard.press('5')
  const point = page.getByRole('slider', { name: /^Point 3/ })
  await point.focus()
  const pulls: Reached[] = []
  for (let i = 0; i < 10; i++) pulls.push(await untilHorizon(page, () => page.keyboard.press('ArrowUp')))
  tell('a pulled point to the horizon', pulls)
  await discard(page)
  await page.goto(`${COURSE}/mark/sheet`)
  await DRAWN.Mark!(page)
  const ask = page.getByRole('button', { name: /work out where the grades stand/ })
  if (await ask.isVisible()) await ask.click()
  await page.getByRole('img', { name: /^Final percents/ }).waitFor()
  // Typed where nobody reads; a script held back or given a mark again, since how many are final is told to the last one.
  const column = page.getByRole('columnheader', { name: 'Pacing and compass' })
  const place = Number(await column.getAttribute('aria-colindex'))
  await page.getByRole('row').nth(1).locator(`[aria-colindex="${place}"]`).click()
  const marks: Reached[] = []
  for (let i = 0; i < 15; i++) {
    const stands = await page.locator('[data-here]').textContent()
    await page.keyboard.type(stands?.includes('held') ? '14' : 'h')
    marks.push(await untilHorizon(page, () => page.keyboard.press('Enter')))
  }
  tell('a typed mark to the horizon', marks)
}

/** Leaves no trial open: the button of that name is there while one is, and its undoing once it was pressed. */
async function discard(page: Page): Promise<void> {
  const button = page.getByRole('button', { name: 'Discard', exact: true })
  if (await button.isVisible()) await button.click()
  await button.waitFor({ state: 'hidden' })
}

const seconds = (began: number) => `${((performance.now() - began) / 1000).toFixed(2)} s`
/** When the horizon says it, and when that has been drawn; ms since the key, nothing where it changed nothing there. */
type Reached = { says: number; drawn: number } | null
const tell = (what: string, times: Reached[]) => {
  const reached = times.filter((t) => t !== null)
  const [says, drawn] = [figures(reached.map((t) => t.says)), figures(reached.map((t) => t.drawn))]
  const not = reached.length === times.length ? '' : `; ${times.length - reached.length} changed nothing there`
  console.log(`  ${what}: p50 ${says.p50.toFixed(0)} ms, drawn ${drawn.p50.toFixed(0)} ms, p99 ${drawn.p99.toFixed(0)} ms${not}`)
}
/** How large the course is that is looked at. */
async function size(page: Page): Promise<string> {
  const courses = (await (await page.request.get('/api/courses')).json()) as CourseHead[]
  const { students, sections } = courses.find((c) => COURSE.endsWith(c.id))!
  return `${students} students in ${sections} sections`
}

/** From a key to the next change of the horizon, timed in the page, once what the key before it began is over. */
async function untilHorizon(page: Page, act: () => Promise<void>): Promise<Reached> {
  await page.evaluate(() => new Promise<void>((rests) => requestIdleCallback(() => rests())))
  // Heard before it is pressed: a key overtakes what is to be evaluated.
  const changed = await page.evaluateHandle(() => ({
    reached: new Promise<Reached>((done) => {
      const horizon = document.querySelector('footer[aria-label="Where it stands"]')!
      window.addEventListener(
        'keydown',
        (pressed) => {
          const changes = new MutationObserver(() => {
            if (/working it out/.test(horizon.textContent)) return
            changes.disconnect()
            clearTimeout(timer)
            const says = performance.now() - pressed.timeStamp
            const drawn = new MessageChannel()
            drawn.port1.onmessage = () => done({ says, drawn: performance.now() - pressed.timeStamp })
            // What is posted as a frame begins comes once it is drawn, and before what waits for a time.
            requestAnimationFrame(() => drawn.port2.postMessage(null))
          })
          const timer = setTimeout(() => (changes.disconnect(), done(null)), 5000)
          changes.observe(horizon, { subtree: true, childList: true, characterData: true, attributes: true })
        },
        { once: true, capture: true },
      )
    }),
  }))
  await act()
  return changed.evaluate(({ reached }) => reached)
}

/** What the renderers hold, in MB. */
async function memory(browser: Browser): Promise<number> {
  const session = await browser.newBrowserCDPSession()
  const { processInfo } = await session.send('SystemInfo.getProcessInfo')
  return processInfo
    .filter((p) => p.type === 'renderer')
    .map((p) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${p.id}/status`, 'utf8'))?.[1] ?? 0) / 1024)
    .reduce((most, mb) => Math.max(most, mb), 0)
}

/** Asks something small every 20 ms, as somebody else would. */
function waitOfOthers(address: string) {
  const times: number[] = []
  let on = true
  const asking = (async () => {
    while (on) {
      const began = performance.now()
      // Once the server is stopped there is nobody left to wait for.
      const answered = await fetch(`${address}/api/health`).then(
        (r) => r.text(),
        () => null,
      )
      if (answered === null) return
      times.push(performance.now() - began)
      await new Promise((go) => setTimeout(go, 20))
    }
  })()
  return {
    async stop(): Promise<number[]> {
      on = false
      await asking
      return times
    },
  }
}
