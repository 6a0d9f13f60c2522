import type { Browser, Page } from '@playwright/test'
import { comeIn, COURSE, expect, test } from './level-table'

const SECOND = '/courses/cfs118-2026'
const SKETCH = `${SECOND}/mark/desk?of=cfs118-2026-sketch`

async function markersOwn(browser: Browser, address: string, name: string): Promise<Page> {
  const context = await browser.newContext({ baseURL: address, reducedMotion: 'reduce' })
  const page = await context.newPage()
  await comeIn(page, name)
  return page
}

test('shared out by the lead, read blind by two markers, and the lead sees the spread', async ({ lead: page, browser, served }) => {
  await page.goto(`${SECOND}/set-out/plan`)
  await page.getByLabel('Title of Talk at the outcrop').click()
  await page.getByLabel('Readings wanted of Talk at the outcrop').fill('2')
  await page.getByLabel('Readings wanted of Talk at the outcrop').press('Enter')
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()

  await test.step('shown before it is made: loads and links; then made', async () => {
    await page.goto(`${SECOND}/mark/sharing-out?of=cfs118-2026-talk-1`)
    await expect(page.getByText('84 have fewer readers than that.')).toBeVisible()
    for (const name of await page.getByLabel(/^Time that/).evaluateAll((all) => all.map((e) => e.getAttribute('aria-label')!)))
      if (!/Tadesse Abara|Lea Ostrand/.test(name)) {
        await page.getByLabel(name).fill('0')
        await page.getByLabel(name).press('Enter')
      }
    await page.getByLabel('nobody their own section').uncheck()
    await expect(page.getByText('112 readings given out anew, 56 stay with their readers, 28 taken from their readers.')).toBeVisible()
    await expect(page.getByText('All 2 share scripts')).toBeVisible()
    await page.getByLabel('numbers in the place of names').click()
    await page.getByLabel('the mark and the levels').click()
    await expect(page.getByLabel('numbers in the place of names')).toBeChecked()
    await expect(page.getByLabel('the mark and the levels')).toBeChecked()
    await page.getByRole('button', { name: 'Share it out' }).click()
    await expect(page.getByText('Every one has its readers.')).toBeVisible()
    await page.getByLabel('Wanted from Lea Ostrand by', { exact: true }).fill('2026-12-03')
    await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  })

  const first = await markersOwn(browser, served.address, 'Tadesse Abara')
  const second = await markersOwn(browser, served.address, 'Lea Ostrand')
  await second.goto(`${SECOND}/mark`)
  await expect(second.getByRole('row', { name: /^Talk at the outcrop/ })).toContainText('Thu 3 Dec')
  await first.goto(`${SECOND}/mark/desk?of=cfs118-2026-talk-1`)
  const picker = first.getByLabel('Script', { exact: true })
  const script = await picker.inputValue()
  const label = (await picker.locator('option:checked').innerText()).replace(/^\d+\. /, '')
  expect(label).toMatch(/^\d+$/)

  await test.step('one hands in by keyboard; the other sees nothing of it before handing in', async () => {
    await expect(first.getByText('No mark is given until a judgement is.')).toBeVisible()
    await first.keyboard.press('5')
    await first.keyboard.press('Enter')
    await expect(first.getByText(/1 handed in/)).toBeVisible()
    await second.goto(`${SECOND}/mark/desk?of=cfs118-2026-talk-1&script=${script}`)
    await expect(second.getByRole('heading', { name: 'Talk at the outcrop' })).toBeVisible()
    await expect(second.getByRole('radio', { name: /hesitant/ })).toBeVisible()
    await expect(second.getByText('Other readings')).toHaveCount(0)
    await second.getByRole('radio', { name: /hesitant/ }).check()
    await second.getByRole('button', { name: /Hand in, next/ }).click()
    await expect(second.getByText(/1 handed in/)).toBeVisible()
    await second.goto(`${SECOND}/mark/desk?of=cfs118-2026-talk-1&script=${script}`)
    await expect(second.getByText('another reader gave 94 (commanding)')).toBeVisible()
    await expect(second.getByText(/Tadesse/)).toHaveCount(0)
  })

  await test.step('the lead sees the spread', async () => {
    await page.goto(`${SECOND}/reconcile`)
    await expect(page.getByText(/^1 over tolerance/)).toBeVisible()
    await expect(page.getByText('46', { exact: true }).first()).toBeVisible()
  })
})

test('read by keyboard: levels, an exact point, a comment from the stock, a gap asked about once, taken back', async ({ page }) => {
  await comeIn(page, 'Tadesse Abara')
  await page.goto(`${SECOND}/mark`)
  await page
    .getByRole('row', { name: /^Sketch map/ })
    .getByRole('link', { name: /^Go on/ })
    .click()
  await expect(page.getByRole('radiogroup', { name: 'Purpose and reader' }).getByRole('radio').first()).toBeFocused()
  // Six criteria: a digit each; back for the range's exact point with +, and on with Enter; then hand in.
  for (const key of ['3', '2', 'ArrowUp', '+', 'Enter', '3', '2', '3', '1']) await page.keyboard.press(key)
  await expect(page.getByText('24.5 of 40')).toBeVisible()
  await page.getByLabel('Find in your stock of comments').fill('datum')
  await page.getByLabel('Find in your stock of comments').press('Enter')
  await expect(page.getByLabel('For the student')).toHaveValue('The tie to the datum is missing.')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText('2 of 9 · 1 handed in')).toBeVisible()

  await page.getByRole('radiogroup', { name: 'Purpose and reader' }).getByRole('radio').first().focus()
  await page.keyboard.press('4')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText(/^Not judged: Generalisation, .*Hand it in again to leave the gap/)).toBeVisible()
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText('3 of 9 · 2 handed in')).toBeVisible()

  await page.getByRole('button', { name: 'Script before' }).click()
  await expect(page.getByText('Handed in: 8 of 40')).toBeVisible()
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.getByRole('button', { name: /Hand in, next/ })).toBeVisible()
  await expect(page.getByText('2 of 9 · 1 handed in')).toBeVisible()
})

test('what is read while the server is away is kept over a reload, and sent when it is back', async ({ page }) => {
  await comeIn(page, 'Nomvula Brandt')
  await page.goto(SKETCH)
  await expect(page.getByRole('radiogroup', { name: 'Purpose and reader' })).toBeVisible()
  const script = await page.getByLabel('Script', { exact: true }).inputValue()
  await page.route('**/reading', (route) => route.abort())
  await page.keyboard.press('2')
  await page.getByLabel('For the student').fill('Written in the tunnel.')
  await expect(page.getByText('✕ not saved')).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('For the student')).toHaveValue('Written in the tunnel.')
  await page.unroute('**/reading')
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await page.evaluate(() => localStorage.clear())
  await page.goto(`${SKETCH}&script=${script}`)
  await expect(page.getByLabel('For the student')).toHaveValue('Written in the tunnel.')
  await expect(page.getByRole('radio', { name: /^2: a reader is named/ })).toBeChecked()
})

test('a script and its rulers stand side by side at 1280×800, and above each other on an upright tablet', async ({ page }) => {
  await comeIn(page, 'Tadesse Abara')
  for (const size of [
    { width: 1280, height: 800 },
    { width: 800, height: 1180 },
  ]) {
    await page.setViewportSize(size)
    await page.goto(SKETCH)
    await expect(page.getByRole('radio', { name: /no reader in mind/ })).toBeInViewport({ ratio: 1 })
    await expect(page.getByText(/^Maker's note/)).toBeInViewport()
    await expect(page.getByRole('button', { name: /Hand in, next/ })).toBeInViewport({ ratio: 1 })
  }
})

test('two at one sheet: changes appear within a second, a clash shows both values and asks', async ({ lead: page, browser, served }) => {
  await page.goto(`${COURSE}/mark/sheet`)
  await page.getByLabel('Section', { exact: true }).selectOption('Octant')
  const cellOf = (p: Page) =>
    p
      .getByRole('row')
      .nth(1)
      .getByRole('gridcell', { name: /^Levelling run/ })
  await cellOf(page).click()
  const other = await markersOwn(browser, served.address, 'Rune Daal')
  await other.goto(`${COURSE}/mark/sheet`)
  await cellOf(other).click()
  await expect(cellOf(other)).toHaveAttribute('aria-label', (await cellOf(page).getAttribute('aria-label'))!)

  await other.keyboard.type('21')
  await other.keyboard.press('Enter')
  await expect(cellOf(page)).toHaveAttribute('aria-label', /: 21$/)

  // The lead types over it while not being told of the other's next change.
  const told = /\/sheet(\/since\/\d+)?$/
  await page.route(told, (route) => (route.request().method() === 'GET' ? route.abort() : route.continue()))
  await cellOf(other).click()
  await other.keyboard.type('22')
  await other.keyboard.press('Enter')
  await expect(other.getByText(/^✓ saved \d/)).toBeVisible()
  await cellOf(page).click()
  await page.keyboard.type('23')
  await page.keyboard.press('Enter')
  await cellOf(page).click()
  const clash = page.getByRole('alert')
  await expect(clash).toContainText('You typed 23; meanwhile somebody put 22 there.')
  await page.unroute(told)
  await clash.getByRole('button', { name: 'Put mine there' }).click()
  await expect(cellOf(other)).toHaveAttribute('aria-label', /: 23$/)
})

test('what is typed while the server is away is kept over a reload, and sent once when it is back', async ({ lead: page }) => {
  await page.goto(`${COURSE}/mark/sheet`)
  const cell = page
    .getByRole('row')
    .nth(1)
    .getByRole('gridcell', { name: /^Levelling run/ })
  await cell.click()
  // The first write arrives, its answer does not.
  await page.route('**/sheet', async (route) => {
    if (route.request().method() !== 'PATCH') return route.continue()
    await route.fetch()
    await route.abort()
  })
  await page.keyboard.type('7.5')
  await page.keyboard.press('Enter')
  await expect(page.getByText('✕ not saved')).toBeVisible()
  await page.reload()
  await expect(cell).toHaveAttribute('aria-label', /: 7\.5$/)
  // What is under way is waited for: a retry may be.
  await page.unrouteAll({ behavior: 'wait' })
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await cell.click()
  await expect(page.getByText('7.5 by Ines Valdry')).toHaveCount(1)
  await expect(page.getByRole('alert')).toHaveCount(0)
})

test('the sheet is sorted, filtered, and its blanks are filled down in one go that is undone in one', async ({ lead: page }) => {
  await page.goto(`${COURSE}/mark/sheet`)
  await page.getByRole('button', { name: /^Stereo heights/ }).click()
  const first = page
    .getByRole('row')
    .nth(1)
    .getByRole('gridcell', { name: /^Stereo heights/ })
  await expect(page.getByRole('columnheader', { name: /^Stereo heights/ })).toHaveAttribute('aria-sort', 'descending')
  const best = Number(/: ([\d.]+)$/.exec((await first.getAttribute('aria-label'))!)![1])
  expect(best).toBeGreaterThan(20)
  await page.getByLabel('Which students').selectOption('with something unmarked')
  await page.getByLabel('Section', { exact: true }).selectOption('Octant')
  await expect(page.getByText('29 of 236 students')).toBeVisible()
  await first.click()
  await page.keyboard.type('12')
  await page.keyboard.press('Enter')
  await first.click()
  await page.keyboard.press('Control+d')
  await expect(page.getByRole('gridcell', { name: /^Stereo heights, .*: 12$/ }).nth(10)).toBeVisible()
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await page.getByRole('button', { name: /^Undo: fill \d+ blanks down/ }).click()
  await expect(page.getByRole('gridcell', { name: /^Stereo heights, .*: 12$/ })).toHaveCount(1)
})

test('what is being typed survives scrolling far away, and keys reach a chosen cell that is out of sight', async ({ lead: page }) => {
  await page.goto(`${COURSE}/mark/sheet`)
  const grid = page.getByRole('grid', { name: 'Marks' })
  const cell = page.getByRole('gridcell', { name: /^Detail survey, / }).nth(2)
  const name = (await cell.getAttribute('aria-label'))!.replace(/: .*/, '')
  await cell.click()
  await page.keyboard.type('31')
  await grid.evaluate((e) => (e.scrollTop = e.scrollHeight))
  await expect(page.getByRole('row', { name: /^\d+ [V-Z]/ }).last()).toBeVisible()
  await page.keyboard.type('.5')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('gridcell', { name: `${name}: 31.5` })).toBeVisible()
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()

  await grid.evaluate((e) => (e.scrollTop = e.scrollHeight))
  await expect(page.getByRole('gridcell', { name: `${name}: 31.5` })).toHaveCount(0)
  await page.keyboard.press('ArrowUp')
  await expect(page.getByRole('gridcell', { name: `${name}: 31.5` })).toBeFocused()
})

test('late by a day, and a step in the sheet undone after a reload: what somebody changed since is left', async ({
  lead: page,
  browser,
  served,
}) => {
  await page.goto(`${COURSE}/mark/sheet`)
  await page.getByLabel('Section', { exact: true }).selectOption('Octant')
  const other = await markersOwn(browser, served.address, 'Rune Daal')
  await other.goto(`${COURSE}/mark/sheet`)
  // Two whom both call by their names: the marker has numbers for those whose work they read blind.
  const names = await Promise.all(
    [1, 2].map(async (row) => {
      const cell = other
        .getByRole('row')
        .nth(row)
        .getByRole('gridcell', { name: /^Pacing and compass/ })
      return /, (.*):/.exec((await cell.getAttribute('aria-label'))!)![1]!
    }),
  )
  const cellOf = (p: Page, nth: 1 | 2) => p.getByRole('gridcell', { name: `Pacing and compass, ${names[nth - 1]}:` })
  const was = (await cellOf(page, 1).getAttribute('aria-label'))!
  await cellOf(page, 1).click()
  await page.keyboard.type('11 late 19 Sep')
  await page.keyboard.press('Enter')
  await expect(cellOf(page, 1)).toHaveAttribute('aria-label', /: 11 late \d$/)
  await cellOf(page, 2).click()
  await page.keyboard.type('12')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await cellOf(page, 1).click()
  await expect(page.getByRole('heading', { name: 'How it came to be' })).toBeVisible()
  await expect(page.getByText(/→\s*11 late \d by Ines Valdry/)).toBeVisible()
  const days = Number(/late (\d+)$/.exec((await cellOf(page, 1).getAttribute('aria-label'))!)![1])
  await page.getByLabel('The day it came', { exact: true }).fill('2026-09-20')
  await expect(cellOf(page, 1)).toHaveAttribute('aria-label', new RegExp(`: 11 late ${days + 1}$`))
  await page.getByRole('button', { name: /^Undo: status of/ }).click()
  await expect(cellOf(page, 1)).toHaveAttribute('aria-label', new RegExp(`: 11 late ${days}$`))
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()

  // Typed before that is there it would be a clash, which is asked about.
  await expect(cellOf(other, 2)).toHaveAttribute('aria-label', /: 12$/)
  await cellOf(other, 2).click()
  await other.keyboard.type('13')
  await other.keyboard.press('Enter')
  await expect(other.getByText(/^✓ saved \d/)).toBeVisible()
  await expect(cellOf(page, 2)).toHaveAttribute('aria-label', /: 13$/)

  await page.reload()
  await page.getByLabel('Section', { exact: true }).selectOption('Octant')
  await page.getByRole('button', { name: /^Undo: mark of/ }).click()
  await expect(page.getByText('one cell was changed since and left')).toBeVisible()
  await page.getByRole('button', { name: /^Undo: mark of/ }).click()
  await expect(cellOf(page, 1)).toHaveAttribute('aria-label', was)
  await expect(cellOf(page, 2)).toHaveAttribute('aria-label', /: 13$/)
  await page.getByRole('button', { name: /^Redo: mark of/ }).click()
  await expect(cellOf(page, 1)).toHaveAttribute('aria-label', new RegExp(`: 11 late ${days}$`))
})

test('done or not is marked with two keys a script', async ({ lead: page, browser, served }) => {
  await page.goto(`${COURSE}/mark/sharing-out?of=cfs214-2026-part-1`)
  await page.getByRole('button', { name: 'See what it would give' }).click()
  await page.getByRole('button', { name: 'Share it out' }).click()
  await expect(page.getByText('Every one has its readers.')).toBeVisible()
  const marker = await markersOwn(browser, served.address, 'Tadesse Abara')
  await marker.goto(`${COURSE}/mark/desk?of=cfs214-2026-part-1`)
  await expect(marker.getByText('Neither is chosen yet.')).toBeVisible()
  await marker.keyboard.press('1')
  await marker.keyboard.press('Enter')
  await expect(marker.getByText(/1 handed in/)).toBeVisible()
  await expect(marker.getByText('Neither is chosen yet.')).toBeVisible()
  await marker.keyboard.press('0')
  await marker.keyboard.press('Enter')
  await expect(marker.getByText(/2 handed in/)).toBeVisible()
  await marker.keyboard.press('k')
  await expect(marker.getByText('Handed in: not done')).toBeVisible()
  await marker.keyboard.press('k')
  await expect(marker.getByText('Handed in: done')).toBeVisible()
})
