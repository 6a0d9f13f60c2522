import type { Page } from '@playwright/test'
import { VIEWS } from './every-view'
import { comeIn, COURSE, EXTERNAL, expect, LEAD, MARKER, signOut, test } from './level-table'

/** What a browser has to say of a page, from the first one on. */
async function listening(page: Page): Promise<string[]> {
  const said: string[] = []
  page.on('console', (m) => ['error', 'warning'].includes(m.type()) && said.push(`${page.url()}: ${m.text()}`))
  page.on('pageerror', (e) => said.push(`${page.url()}: ${e.message}`))
  // What the policy stopped and the page caught is told nowhere else.
  await page.exposeFunction('tellStopped', (what: string) => said.push(what))
  await page.addInitScript(() =>
    document.addEventListener('securitypolicyviolation', (e) => {
      const { tellStopped } = window as unknown as { tellStopped: (what: string) => void }
      tellStopped(`${e.documentURI}: ${e.violatedDirective} ${e.blockedURI} ${e.sourceFile}:${e.lineNumber}`)
    }),
  )
  return said
}

test('the browser has nothing to complain of: at the door, on every page of a lead, and after signing out', async ({ page }) => {
  const said = await listening(page)
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await comeIn(page, LEAD)
  for (const view of VIEWS) {
    await page.goto(`${COURSE}/${view}`)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await page.waitForLoadState('networkidle')
  }
  await signOut(page, LEAD)
  expect(said).toEqual([])
})

test('nor for a marker at the desk, an external and a student', async ({ page }) => {
  const said = await listening(page)
  await comeIn(page, MARKER)
  for (const view of ['mark', 'mark/desk', 'mark/sheet', 'agree/exemplars']) {
    await page.goto(`${COURSE}/${view}`)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await page.waitForLoadState('networkidle')
  }
  await signOut(page, MARKER)
  await comeIn(page, EXTERNAL)
  await page.goto(`${COURSE}/confirm`)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await signOut(page, EXTERNAL)
  await page.getByRole('button', { name: /student: sees own work/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  expect(said).toEqual([])
})
