import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { chromium, type Browser, type Page } from '@playwright/test'
import settings from '../playwright.config'

/** Made once and kept, since making it takes minutes: `LEVEL_TABLE_LARGE` says where. */
export const LARGE = process.env.LEVEL_TABLE_LARGE ?? 'test-results/large-data'
const SIZE = ['--students', '12000', '--sections', '400', '--markers', '60', '--assessments', '60']

export interface Large {
  address: string
  browser: Browser
  /** A page at the door. */
  page: Page
}

export function makeLarge(): void {
  execFileSync(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'demo/main.ts', '--data', LARGE, ...SIZE], { stdio: 'inherit' })
}

/** The built application over a department of 12,000 students, 60 assessments and 400 sections, in Chromium. */
export async function withLarge(work: (large: Large) => Promise<void>): Promise<void> {
  if (!existsSync(join(LARGE, 'level-table.db'))) makeLarge()
  const server = spawn(process.execPath, ['dist/server/main.js'], {
    env: { ...process.env, PORT: '0', HOST: '127.0.0.1', LEVEL_TABLE_DATA: LARGE, LOG_LEVEL: 'info' },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  const [line] = (await once(createInterface({ input: server.stdout }), 'line')) as [string]
  const address = `http://127.0.0.1:${(JSON.parse(line) as { port: number }).port}`
  const browser = await chromium.launch(settings.use!.launchOptions)
  try {
    const context = await browser.newContext({ baseURL: address, viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' })
    await work({ address, browser, page: await context.newPage() })
  } finally {
    await browser.close()
    server.kill()
    await once(server, 'exit')
  }
}
