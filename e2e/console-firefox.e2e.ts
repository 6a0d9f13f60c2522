import { FIREFOX } from './firefox/debian'
import { VIEWS } from './every-view'
import { COURSE, expect, LEAD, signOut, test } from './level-table'

test.use(FIREFOX)

test('Firefox has nothing to complain of either: at the door, on every page of a lead, and after signing out', async ({ page, served }) => {
  // It grows with every view there is.
  test.slow()
  const said: string[] = []
  page.on('console', (m) => ['error', 'warning'].includes(m.type()) && said.push(`${page.url()}: ${m.text()}`))
  page.on('pageerror', (e) => said.push(`${page.url()}: ${e.message}`))
  await page.addInitScript(() =>
    document.addEventListener('securitypolicyviolation', (e) =>
      console.error(`${e.violatedDirective} ${e.blockedURI} ${e.sourceFile}:${e.lineNumber}`),
    ),
  )
  await page.goto(served.address)
  await page.getByRole('button', { name: LEAD }).click()
  await page.getByRole('navigation', { name: 'The run of work' }).waitFor()
  for (const { path } of VIEWS) {
    await page.goto(`${served.address}${COURSE}/${path}`)
    await page.getByRole('heading', { level: 1 }).first().waitFor()
    await expect(page.getByText('Working out')).toHaveCount(0)
    // A font that is still on its way when the page is left counts as one that failed.
    await page.evaluate(() => document.fonts.ready.then(() => true))
  }
  await signOut(page, LEAD)
  expect(said).toEqual([])
})
