import { expectNoFindings, findings } from './checks'
import type { Page } from '@playwright/test'
import { comeIn, COURSE, expect, LEAD, MARKER, test } from './level-table'

test('close-ups and dialogs pass them too', async ({ lead: page }) => {
  await page.getByLabel('Title of Viva').click()
  await expect(page.getByRole('heading', { name: 'Do with it' })).toBeVisible()
  await expectNoFindings(page, 'an assessment’s close-up')
  await page.getByRole('button', { name: /^Policies/ }).click()
  await expectNoFindings(page, 'policies')
  await page.goto(`${COURSE}/set-out/roll`)
  await page.getByRole('row').nth(2).click()
  await expectNoFindings(page, 'a student’s close-up')
  await page.getByRole('button', { name: /Bring in a roll/ }).click()
  await expect(page.getByRole('dialog')).toBeVisible()
  await expectNoFindings(page, 'bring in a roll')
  await page.goto(`${COURSE}/mark`)
  await page.getByRole('button', { name: /Bring in a file/ }).click()
  await expect(page.getByRole('dialog')).toBeVisible()
  await expectNoFindings(page, 'bring in')
})

test('the door passes them too', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Level Table' })).toBeVisible()
  expect(await findings(page)).toEqual([])
})

test('the installation, one’s own account and a link that leads nowhere pass them too', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: /^Orsolya Tamm/ }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Who is here' })).toBeVisible()
  await page.getByRole('button', { name: 'Ines Valdry' }).click()
  expect.soft(await findings(page), 'people').toEqual([])
  for (const [path, heading] of [
    ['installation/courses', 'Courses'],
    ['installation/settings', 'Settings'],
    ['installation/keeping', 'Keeping it safe'],
    ['installation/audit', 'What happened'],
    ['account', 'Your account'],
    ['come-in#nothing-that-was-ever-made', 'Level Table'],
  ] as const) {
    await page.goto(`/${path}`)
    await expect(page.getByRole('heading', { level: 1, name: heading })).toBeVisible()
    await expectNoFindings(page, path)
  }
})

test('a marker’s piles and desk pass them too', async ({ page }) => {
  await comeIn(page, 'Tadesse Abara')
  await page.goto('/courses/cfs118-2026/mark')
  await expect(page.getByRole('heading', { name: 'What you read' })).toBeVisible()
  expect.soft(await findings(page), 'piles').toEqual([])
  for (const of of ['sketch', 'talk-1']) {
    await page.goto(`/courses/cfs118-2026/mark/desk?of=cfs118-2026-${of}`)
    await expect(page.getByRole('button', { name: /Hand in, next/ })).toBeVisible()
    expect.soft(await findings(page), of).toEqual([])
  }
})

test('a marker sees the sheet of their own section, and no grades', async ({ page }) => {
  await comeIn(page, MARKER)
  await page.goto(`${COURSE}/mark/sheet`)
  await expect(page.getByText('29 of 29 students')).toBeVisible()
  await expect(page.getByText('Where it stands')).toHaveCount(0)
  await page.goto(`${COURSE}/bound`)
  await expect(page.getByText('This stop is for those who lead or oversee the course.')).toBeVisible()
  expect(await findings(page)).toEqual([])
})

const firstCell = (page: Page) =>
  page
    .getByRole('row')
    .nth(1)
    .getByRole('gridcell', { name: /^Levelling run/ })

test('code that can’t be fetched leaves the page as it is, and what is typed reaches it', async ({ lead: page }) => {
  const gone = /\/assets\/(Horizon|Compare)-.*\.js$/
  await page.route(gone, (r) => r.abort())
  await page.goto(`${COURSE}/mark`)
  const cell = firstCell(page)
  await cell.click()
  const says = page.getByText('This part could not be fetched from the server')
  await expect(says).toBeVisible()
  await page.setViewportSize({ width: 1280, height: 640 })
  await expect(cell).toBeFocused()
  await page.keyboard.type('21')
  await page.keyboard.press('Enter')
  await expect(cell).toHaveText('21')
  const run = page.getByRole('navigation', { name: 'The run of work' })
  await run.getByRole('link', { name: /^Compare/ }).click()
  await expect(says).toHaveCount(2)
  await run.getByRole('link', { name: /^Mark/ }).click()
  await expect(cell).toHaveText('21')
  await run.getByRole('link', { name: /^Compare/ }).click()
  await page.unroute(gone)
  await says.first().getByRole('link').click()
  await expect(page.getByRole('heading', { level: 1, name: 'Are the sections on one level?' })).toBeVisible()
  await expect(says).toHaveCount(0)
})

test('what is typed while the server is away is kept, said, and saved when it is back', async ({ lead: page }) => {
  await page.goto(`${COURSE}/mark`)
  const cell = firstCell(page)
  await cell.click()
  await page.context().setOffline(true)
  await page.keyboard.type('22')
  await page.keyboard.press('Enter')
  await expect(page.getByText('✕ not saved')).toBeVisible()
  await expect(cell).toHaveText('22')
  await page.context().setOffline(false)
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await page.reload()
  await expect(cell).toHaveText('22')
})

test('while the server is away the stops still open, and show what is worked out from the marks that are here', async ({ lead: page }) => {
  await page.goto(`${COURSE}/bound`)
  await expect(page.getByRole('textbox', { name: 'Merit begins at' })).toBeVisible()
  const run = page.getByRole('navigation', { name: 'The run of work' })
  const compare = run.getByRole('link', { name: /^Compare/ })
  const heading = page.getByRole('heading', { level: 1, name: 'Are the sections on one level?' })
  // Its code is here once it has been looked at; its figures are worked out anew as the trial goes on.
  await compare.click()
  await expect(heading).toBeVisible()
  await run.getByRole('link', { name: /^Bound/ }).click()
  await page.context().setOffline(true)
  await page.getByRole('textbox', { name: 'Merit begins at' }).fill('72')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('contentinfo', { name: 'Where it stands' }).getByText(/^Trial:/)).toBeVisible()
  await compare.click()
  await expect(heading).toBeVisible()
  await page.context().setOffline(false)
  await page.getByRole('contentinfo', { name: 'Where it stands' }).getByRole('button', { name: 'Discard', exact: true }).click()
  await expect(page.getByText(/^✓ saved/)).toBeVisible()
})

test('somebody else signs in in the same browser: what was typed here is never theirs, and is saved when one is back', async ({
  lead: page,
}) => {
  await page.goto(`${COURSE}/mark`)
  const cell = firstCell(page)
  await cell.click()
  // Begun before the other signs in: the page may learn of that at any moment from then on.
  await page.keyboard.type('23')
  const other = await page.context().newPage()
  await other.goto('/')
  // Signed out by a page, this one would be left with it; a session can also end without any page being told.
  await other.request.delete('/api/session', { headers: { origin: new URL(other.url()).origin } })
  await other.goto('/')
  await other.getByRole('button', { name: MARKER }).click()
  await expect(other.getByRole('button', { name: `${MARKER}, marker` })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByText('somebody else has signed in in this browser')).toBeVisible()
  await page.getByRole('button', { name: LEAD }).click()
  await expect(cell).toHaveText('23')
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  await page.reload()
  await expect(cell).toHaveText('23')
})
