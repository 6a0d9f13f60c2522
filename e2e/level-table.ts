import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { test as base, type Locator, type Page } from '@playwright/test'
import { TEMPLATE } from './make-demo'

export const COURSE = '/courses/cfs214-2026'
export const LEAD = 'Ines Valdry'
export const MARKER = 'Rune Daal'
export const EXTERNAL = 'Tamsin Oyelaran-Holt'

export interface Served {
  address: string
  data: string
  /** What stands in its console, once it is ready. */
  console: () => string
}

/** Each test has a server of its own over a copy of the demo data. */
export const test = base.extend<{ template: string | null; settings: Record<string, string>; served: Served; lead: Page }>({
  /** What its data is a copy of; null begins with an empty folder. */
  template: [TEMPLATE, { option: true }],
  /** Of the server, beside the usual ones. */
  settings: [{}, { option: true }],
  served: async ({ template, settings }, use) => {
    const data = mkdtempSync(join(tmpdir(), 'level-table-'))
    if (template) cpSync(template, data, { recursive: true })
    const server = spawn(process.execPath, ['dist/server/main.js'], {
      env: { ...process.env, PORT: '0', HOST: '127.0.0.1', LEVEL_TABLE_DATA: data, LOG_LEVEL: 'info', ...settings },
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    let said = ''
    server.stderr.on('data', (part: Buffer) => {
      said += part.toString()
      process.stderr.write(part)
    })
    const lines = createInterface({ input: server.stdout })
    const port = await new Promise<number>((found) => {
      lines.on('line', (line) => {
        const { msg, port } = JSON.parse(line) as { msg: string; port?: number }
        if (msg === 'listening') found(port!)
      })
    })
    await use({ address: `http://127.0.0.1:${port}`, data, console: () => said })
    server.kill()
    await once(server, 'exit')
    rmSync(data, { recursive: true, force: true })
  },
  baseURL: async ({ served }, use) => use(served.address),
  lead: async ({ page }, use) => {
    await comeIn(page, LEAD)
    await use(page)
  },
})

export { expect } from '@playwright/test'

/** Signs in through the stand-in sign-on and waits for the frame. */
export async function comeIn(page: Page, name: string): Promise<void> {
  await page.goto('/')
  await page.getByRole('button', { name }).click()
  await page.getByRole('navigation', { name: 'The run of work' }).waitFor()
}

export async function goTo(page: Page, stop: string): Promise<void> {
  await page
    .getByRole('navigation', { name: 'The run of work' })
    .getByRole('link', { name: new RegExp(`^${stop}`) })
    .click()
}

/** The account menu in the page's head: the same name may also be in a table. */
export const ownMenu = (page: Page, name: string): Locator =>
  page.getByRole('banner').getByRole('button', { name: new RegExp(`^${name}(, |$)`) })

/** Signs out and waits for the door: until it stands there, the server may not have heard of it. */
export async function signOut(page: Page, name: string): Promise<void> {
  await ownMenu(page, name).click()
  await page.getByRole('button', { name: 'Sign out' }).click()
  await page.getByRole('heading', { name: 'Sign in' }).waitFor()
}

/** Types over what stands in a field, key by key, as a person does. */
export async function typeOver(field: Locator, text: string): Promise<void> {
  await field.click()
  await field.press('ControlOrMeta+a')
  await field.pressSequentially(text)
}
