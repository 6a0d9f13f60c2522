import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { launch, type Browser } from 'puppeteer-core'
import { VIEWS } from './every-view'
import { COURSE, expect, LEAD, test as base } from './level-table'

/** Debian's Firefox as it is, through WebDriver BiDi: Playwright drives only a Firefox built for it. */
const test = base.extend<{ firefox: Browser }>({
  // eslint-disable-next-line no-empty-pattern
  firefox: async ({}, use) => {
    const profile = mkdtempSync(join(tmpdir(), 'level-table-firefox-'))
    const browser = await launch({
      browser: 'firefox',
      executablePath: '/usr/bin/firefox-esr',
      headless: true,
      userDataDir: profile,
      defaultViewport: { width: 1280, height: 800 },
      extraPrefsFirefox: { 'ui.prefersReducedMotion': 1 },
    })
    await use(browser)
    await browser.close()
    rmSync(profile, { recursive: true, force: true })
  },
})

const button = (says: string) => `::-p-xpath(//*[self::button or @role="button"][contains(., "${says}")])`

test('Firefox has nothing to complain of either: at the door, on every page of a lead, and after signing out', async ({
  firefox,
  served,
}) => {
  // It grows with every view there is.
  test.slow()
  const page = await firefox.newPage()
  const said: string[] = []
  page.on('console', (m) => ['error', 'warn'].includes(m.type()) && said.push(`${page.url()}: ${m.text()}`))
  page.on('pageerror', (e) => said.push(`${page.url()}: ${e instanceof Error ? e.message : String(e)}`))
  await page.evaluateOnNewDocument(() =>
    document.addEventListener('securitypolicyviolation', (e) =>
      console.error(`${e.violatedDirective} ${e.blockedURI} ${e.sourceFile}:${e.lineNumber}`),
    ),
  )
  await page.goto(served.address)
  await page.locator(button(LEAD)).click()
  await page.locator('nav[aria-label="The run of work"]').wait()
  for (const { path } of VIEWS) {
    await page.goto(`${served.address}${COURSE}/${path}`)
    await page.locator('h1').wait()
    await page.waitForNetworkIdle({ idleTime: 200, concurrency: 1 })
    // A font that is still on its way when the page is left counts as one that failed.
    await page.evaluate(() => document.fonts.ready.then(() => true))
  }
  await page.locator(button(LEAD)).click()
  await page.locator(button('Sign out')).click()
  await page.locator('::-p-text(Sign in)').wait()
  expect(said).toEqual([])
})
