import type { Locator, Page } from '@playwright/test'
import { comeIn, COURSE, expect, test } from './level-table'
import { keepIdea, tryThreeMore } from './moderating'

const FOLDER = 'docs/screenshots'

const shoot = async (page: Page, name: string) => {
  await page.mouse.move(640, 2)
  await expect(page.getByText(/working it out|Working out where/)).toHaveCount(0)
  await page.screenshot({ path: `${FOLDER}/${name}.png`, animations: 'disabled' })
}

const picture = async (of: Page | Locator) => (await of.screenshot({ animations: 'disabled' })).toString('base64')

/** Several pictures as one. */
async function shootTogether(
  page: Page,
  name: string,
  pictures: readonly string[],
  { columns, width }: { columns: number; width: number },
) {
  const sheet = await page.context().newPage()
  await sheet.setViewportSize({ width, height: 800 })
  const images = pictures.map(
    (png) => `<img style="width: 100%; break-inside: avoid; margin-bottom: 18px" src="data:image/png;base64,${png}">`,
  )
  await sheet.setContent(
    `<!doctype html><body style="margin: 18px; background: #fffefa"><div style="columns: ${columns}; column-gap: 24px">${images.join('')}</div></body>`,
  )
  await sheet.screenshot({ path: `${FOLDER}/${name}.png`, fullPage: true })
  await sheet.close()
}

test('the run in pictures', async ({ lead: page }) => {
  await page.goto(`${COURSE}/set-out/roll`)
  await page.getByRole('button', { name: /^Groma/ }).click()
  await page.getByRole('row').nth(5).click()
  await expect(page.getByRole('heading', { name: 'Move or withdraw' })).toBeVisible()
  await shoot(page, '01-roll')
  await page.goto(`${COURSE}/set-out/plan`)
  await expect(page.getByText('Every fall equals the weight in the plan.')).toBeVisible()
  await shoot(page, '03-plan')
  await page.goto(`${COURSE}/set-out/placements`)
  await page.getByRole('rowheader', { name: 'Viva' }).click()
  await expect(page.getByRole('heading', { name: '2 to look at' })).toBeVisible()
  await shoot(page, '04-placements')
  await page.goto(`${COURSE}/agree`)
  await expect(page.getByRole('heading', { name: 'A map for a reader' })).toBeVisible()
  await shoot(page, '05-agree')
  await page.goto(`${COURSE}/agree/standings`)
  await page.getByRole('button', { name: 'Accounts for every observation' }).click()
  await page.getByRole('slider', { name: 'Who stands up to' }).press('ArrowLeft')
  await page.getByRole('slider', { name: 'Who stands up to' }).press('ArrowLeft')
  await page.getByLabel('Try another rule').selectOption({ label: 'the highest result' })
  await expect(page.getByText(/^By that \d+ more would be/)).toBeVisible()
  await shoot(page, '07-standings')
  await page.goto(`${COURSE}/mark`)
  await expect(page.getByRole('grid')).toBeVisible()
  await shoot(page, '06-mark')
  await page.goto(`${COURSE}/mark/sharing-out`)
  await page.getByRole('button', { name: 'a sample, read again' }).click()
  await expect(page.getByText('given out anew')).toBeVisible()
  await shoot(page, '17-mark-sharing-out')
  await page.goto(`${COURSE}/compare`)
  await page.getByRole('button', { name: 'Sextant' }).click()
  await page.keyboard.press('g')
  await expect(page.getByText('higher, and its students do better elsewhere: strong students').first()).toBeVisible()
  await shoot(page, '08-compare')
  await page.goto(`${COURSE}/reconcile`)
  await expect(page.getByRole('heading', { name: '38 scripts to settle' })).toBeVisible()
  await page.keyboard.press('m')
  await page.keyboard.press('h')
  await expect(page.getByText('2 tried')).toBeVisible()
  await expect(page.getByText('Trial:')).toBeVisible()
  await expect(page.getByRole('blockquote').first()).toBeVisible()
  await shoot(page, '09-reconcile')
  await page.getByRole('button', { name: 'Discard' }).click()
  await page.goto(`${COURSE}/rescale`)
  await expect(page.getByRole('heading', { name: 'Traverse closure' })).toBeVisible()
  await page.keyboard.press('5')
  const point = page.getByRole('slider', { name: /^Point 3/ })
  await point.focus()
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowUp')
  await expect(page.getByText('15 becomes 18.5')).toBeVisible()
  await expect(page.getByText('Trial:')).toBeVisible()
  await shoot(page, '10-rescale')
  await page.getByRole('button', { name: 'Discard' }).click()
  await page.goto(`${COURSE}/rescale?part=common weights`)
  await page.getByRole('button', { name: 'Taking part', exact: true }).click()
  await expect(page.getByRole('heading', { name: /^Taking part decides/ })).toBeVisible()
  await shoot(page, '00-common-weights')
  await page.goto(`${COURSE}/bound`)
  await expect(page.getByRole('heading', { name: 'Where do the grades begin?' })).toBeVisible()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByRole('heading', { name: 'Merit begins at 69.0, was 70.0' })).toBeVisible()
  await expect(page.getByText('Trial:')).toBeVisible()
  await shoot(page, '11-bound')
  await page.getByRole('button', { name: 'Discard' }).click()
  await page.goto(`${COURSE}/confirm`)
  await expect(page.getByRole('heading', { name: 'What is still open' })).toBeVisible()
  await shoot(page, '12-confirm')
  await page.goto(`${COURSE}/students/cfs214-2026-student-12`)
  await page.getByRole('button', { name: 'Map project' }).click()
  await page.getByLabel('What if Written paper').fill('70')
  await page.getByLabel('What if Written paper').press('Enter')
  await expect(page.getByText(/^As marked:/)).toBeVisible()
  await shoot(page, '13-student')
})

test('at 200%', async ({ lead: page }) => {
  await page.setViewportSize({ width: 640, height: 400 })
  await page.goto(`${COURSE}/mark`)
  await expect(page.getByRole('grid')).toBeVisible()
  await page.screenshot({ path: `${FOLDER}/15-at-200-percent.png`, animations: 'disabled' })
})

test('every way to rescale, on one sheet', async ({ lead: page }) => {
  await page.goto(`${COURSE}/rescale?of=cfs214-2026-map`)
  const ways = page.getByRole('group', { name: 'How to rescale' }).getByRole('button')
  await expect(ways.first()).toBeVisible()
  const how = page.locator('section').filter({ has: page.getByRole('heading', { name: 'How', exact: true }) })
  const pictures: string[] = []
  for (const way of await ways.all()) {
    await way.click()
    await expect(way).toHaveAttribute('aria-pressed', 'true')
    await page.mouse.move(640, 2)
    await expect(page.getByText(/working it out/)).toHaveCount(0)
    pictures.push(await picture(how))
  }
  await shootTogether(page, '02-ways-to-rescale', pictures, { columns: 3, width: 1280 })
})

test('markers, criteria and years compared, and ideas side by side, on one sheet', async ({ lead: page }) => {
  const pictures: string[] = []
  const taken = async () => {
    await page.mouse.move(640, 2)
    await expect(page.getByText(/working it out|Working out where/)).toHaveCount(0)
    pictures.push(await picture(page))
  }
  await page.goto(`${COURSE}/compare?rows=markers&of=cfs214-2026-map`)
  await page.getByRole('button', { name: 'Lea Ostrand', exact: true }).click()
  await expect(page.getByRole('button', { name: /^Lea Ostrand on Purpose/ })).toBeVisible()
  await expect(page.getByText(/κ on grades/)).toBeVisible()
  await taken()
  await page.goto(`${COURSE}/compare?rows=criteria&of=cfs214-2026-map`)
  await expect(page.getByRole('heading', { name: 'Does every criterion tell scripts apart?' })).toBeVisible()
  await taken()
  await page.goto(`${COURSE}/compare?rows=years&of=course`)
  await expect(page.getByRole('heading', { name: 'Is this year like the last?' })).toBeVisible()
  await taken()
  await page.goto(`${COURSE}/rescale?part=the total`)
  await page.getByRole('button', { name: /^top to/ }).click()
  await expect(page.getByRole('button', { name: '1 · top to 100' })).toBeVisible()
  await keepIdea(page, 'Best is 100')
  await tryThreeMore(page)
  await keepIdea(page, 'Everyone more by 3')
  await page.getByRole('button', { name: 'Best is 100' }).click()
  await taken()
  await shootTogether(page, '14-compared', pictures, { columns: 2, width: 1920 })
})

test('the desk', async ({ page }) => {
  await comeIn(page, 'Tadesse Abara')
  await page.goto('/courses/cfs118-2026/mark/desk?of=cfs118-2026-sketch')
  await expect(page.getByRole('radiogroup', { name: 'Purpose and reader' })).toBeVisible()
  for (const key of ['3', '2', '+', 'Enter', '3', '2', '3']) await page.keyboard.press(key)
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await page.mouse.move(640, 2)
  await page.screenshot({ path: `${FOLDER}/18-mark-desk.png`, animations: 'disabled' })
})

test('a student’s own page', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: /sees own work once it is released/ }).click()
  await page.getByRole('button', { name: /^What would I need for/ }).click()
  const paper = page.getByRole('slider', { name: 'Written paper' })
  await paper.focus()
  for (let i = 0; i < 8; i++) await paper.press('ArrowRight')
  await expect(page.getByText(/^So the course would end at/)).toBeVisible()
  await shoot(page, '16-own-work')
})
