import type { Page } from '@playwright/test'
import { withLarge } from './large'

/** After which everything has come and nothing is asked for any more. */
const SETTLED_MS = 8000
const SHEET = '/courses/cfs214-2026/mark/sheet'

/**
 * The mark sheet of 12,000 students × 60 assessments in Chromium: opening, scrolling beside a bare page of the same size, keys,
 * and what a first visit fetches. The application must be built.
 */
export async function benchSheet(): Promise<void> {
  await withLarge(async ({ page }) => {
    console.log('\nThe mark sheet, 12,000 × 60')
    await firstLoad(page)
    await page.getByRole('button', { name: 'Ines Valdry' }).click()
    await page.getByRole('navigation', { name: 'The run of work' }).waitFor()
    for (let i = 0; i < 3; i++) {
      const began = performance.now()
      await page.goto(SHEET)
      await page.getByRole('gridcell').first().waitFor({ timeout: 120_000 })
      console.log(`  opened ${i === 0 ? 'for the first time' : 'again'}: ${((performance.now() - began) / 1000).toFixed(1)} s`)
      await page.waitForLoadState('networkidle').catch(() => undefined)
    }
    await page.waitForTimeout(SETTLED_MS)
    await scrolling(page, 'at rest')
    await keys(page)
    // Every mark typed has the plan and the counts asked for again, on the same two cores that draw.
    await scrolling(page, 'right after typing')
    await bareScrolling(page)
  })
}

async function firstLoad(page: Page): Promise<void> {
  const client = await page.context().newCDPSession(page)
  await client.send('Network.enable')
  let bytes = 0
  client.on('Network.loadingFinished', (e) => (bytes += e.encodedDataLength))
  await page.goto('/')
  await page.getByRole('button', { name: 'Ines Valdry' }).waitFor()
  console.log(`  first load, to the door: ${Math.round(bytes / 1024)} KB as sent (gzip, fonts included)`)
}

const sorted = (times: number[]) => [...times].sort((a, b) => a - b)
const words = (times: number[]) => {
  const t = sorted(times)
  const at = (q: number) => t[Math.min(t.length - 1, Math.floor(q * t.length))]!.toFixed(0)
  return `p50 ${at(0.5)} ms, p95 ${at(0.95)} ms, ${t.filter((x) => x > 50).length} of ${t.length} over 50 ms`
}

async function keys(page: Page): Promise<void> {
  const press = (key: string) =>
    page.evaluate(
      (k) =>
        new Promise<number>((done) => {
          const began = performance.now()
          document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key: k, bubbles: true, cancelable: true }))
          requestAnimationFrame(() => setTimeout(() => done(performance.now() - began)))
        }),
      key,
    )
  const times: Record<'arrow' | 'first digit' | 'Enter', number[]> = { arrow: [], 'first digit': [], Enter: [] }
  await page.getByRole('row').nth(1).getByRole('gridcell').first().click()
  for (let i = 0; i < 20; i++) {
    times.arrow.push(await press('ArrowDown'))
    times['first digit'].push(await press('1'))
    await page.keyboard.type('2')
    times.Enter.push(await press('Enter'))
  }
  for (const [key, all] of Object.entries(times)) console.log(`  ${key} to screen: ${words(all)}`)
}

const frames = (page: Page, selector: string, step: number) =>
  page.evaluate(
    async ([where, by]) => {
      const box = document.querySelector(where)!
      box.scrollTop = 0
      const times: number[] = []
      let last = performance.now()
      for (let i = 0; i < 150; i++) {
        box.scrollTop += by
        await new Promise(requestAnimationFrame)
        const now = performance.now()
        times.push(now - last)
        last = now
      }
      return times.slice(2)
    },
    [selector, step] as const,
  )

async function scrolling(page: Page, when: string): Promise<void> {
  for (const step of [120, 300]) console.log(`  scrolled ${step} px a frame, ${when}: ${words(await frames(page, '[role=grid]', step))}`)
}

/** Beside it: as many rows of plain text, with nothing of ours. */
async function bareScrolling(page: Page): Promise<void> {
  await page.evaluate(() => {
    const box = document.createElement('div')
    box.id = 'bare'
    box.style.cssText = 'height:560px;width:880px;overflow:auto'
    for (let i = 0; i < 3000; i++) {
      const row = document.createElement('div')
      row.style.height = '30px'
      for (let j = 0; j < 14; j++) {
        const cell = document.createElement('span')
        cell.style.cssText = 'display:inline-block;width:60px'
        cell.textContent = String(i + j)
        row.append(cell)
      }
      box.append(row)
    }
    document.body.replaceChildren(box)
  })
  for (const step of [120, 300]) console.log(`  bare page, ${step} px a frame: ${words(await frames(page, '#bare', step))}`)
}
