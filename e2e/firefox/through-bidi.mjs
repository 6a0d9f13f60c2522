#!/usr/bin/env node
// Debian's Firefox for Playwright, which drives it through WebDriver BiDi. Playwright asks at the start of every page for a command that
// this Firefox does not have yet (emulated media features, of which none is asked for here): it is answered, and everything else is handed
// through as it comes.
import { spawn } from 'node:child_process'
import process from 'node:process'
import { createInterface } from 'node:readline'
import { WebSocket, WebSocketServer } from 'ws'

const NOT_THERE = 'emulation.setMediaFeaturesOverride'
const LISTENING = /WebDriver BiDi listening on (ws:\S+)/
const OPTIONS = { perMessageDeflate: false, maxPayload: 256 * 1024 * 1024 }

const firefox = spawn('/usr/bin/firefox-esr', process.argv.slice(2), { stdio: ['ignore', 'inherit', 'pipe'] })
firefox.on('exit', (code) => process.exit(code ?? 0))
for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => firefox.kill(signal))
process.on('exit', () => firefox.kill())

createInterface({ input: firefox.stderr }).on('line', (line) => {
  const address = line.match(LISTENING)?.[1]
  if (address) between(address)
  else process.stderr.write(`${line}\n`)
})

/** @param {string} address where Firefox listens */
function between(address) {
  const server = new WebSocketServer({ ...OPTIONS, port: 0, host: '127.0.0.1' })
  server.on('listening', () => process.stderr.write(`WebDriver BiDi listening on ws://127.0.0.1:${server.address().port}\n`))
  server.on('connection', (driver) => {
    const browser = new WebSocket(`${address}/session`, OPTIONS)
    const opened = new Promise((open) => browser.once('open', open))
    browser.on('message', (data) => driver.send(data.toString()))
    browser.on('close', () => driver.close())
    browser.on('error', () => driver.close())
    driver.on('close', () => browser.close())
    driver.on('message', async (data) => {
      const asked = JSON.parse(data.toString())
      if (asked.method === NOT_THERE) return driver.send(JSON.stringify({ type: 'success', id: asked.id, result: {} }))
      await opened
      browser.send(data.toString())
    })
  })
}
