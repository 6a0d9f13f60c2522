import type { Page } from '@playwright/test'

/** What a browser has to say of a page, from the first one on. */
export async function listening(page: Page): Promise<string[]> {
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
