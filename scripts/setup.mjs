// What the commands need before anything is installed: plain Node, no dependencies.
import { spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

export const say = (text) => console.log(`» ${text}`)

const major = Number(process.versions.node.split('.')[0])
if (major < 20) {
  console.error(`Level Table needs Node 20 or newer; this is ${process.versions.node}.`)
  process.exit(1)
}

/** Runs a command, shows what it prints, and gives its exit code. */
export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', ...options })
  if (error) console.error(`${command} could not be started: ${error.message}`)
  return status ?? 1
}

/** Runs a command beside others: its exit code, and what it printed. */
export function runQuietly(command, args) {
  return new Promise((done) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] })
    let printed = ''
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (printed += String(part)))
    child.on('error', (error) => done({ code: 1, printed: `${command} could not be started: ${error.message}\n` }))
    child.on('close', (code) => done({ code: code ?? 1, printed }))
  })
}

const must = (what, code) => {
  if (code === 0) return
  console.error(`${what} failed (exit ${code}). What it printed above says why; run the same command again once that is mended.`)
  process.exit(code)
}

const STAMP = 'node_modules/.installed-from'

/** Installs from the lock file where node_modules is absent or older than it. */
export function ensureInstalled() {
  const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex')
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === lock) return
  say('Installing packages from package-lock.json. The database module may be compiled here, which takes a few minutes.')
  must('npm ci', run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']))
  writeFileSync(STAMP, lock)
  say('Packages are in place.')
}

/** When the newest file below a path was written; 0 where there is none. */
export const newest = (path) => {
  const stat = statSync(path, { throwIfNoEntry: false })
  if (!stat) return 0
  if (!stat.isDirectory()) return stat.mtimeMs
  return readdirSync(path).reduce((latest, name) => Math.max(latest, newest(join(path, name))), 0)
}

/** Builds pages and server where a source is newer than what was built. */
export function ensureBuilt({ always = false } = {}) {
  const sources = ['core', 'contract', 'server', 'web', 'vite.config.ts', 'vite.server.config.ts', 'package-lock.json']
  const built = Math.min(newest('dist/web/index.html'), newest('dist/server/main.js'))
  if (!always && built > 0 && sources.every((s) => newest(s) <= built)) return
  say('Building the pages and the server.')
  must('The build', run('npm', ['run', '--silent', 'build']))
}

/** The browsers that the interface tests drive, as Debian packages them. */
const BROWSERS = { chromium: '/usr/bin/chromium', 'firefox-esr': '/usr/bin/firefox-esr' }

/** Installs the browsers that are not there through apt-get, where we may. */
export function ensureBrowsers() {
  const missing = Object.keys(BROWSERS).filter((name) => !existsSync(BROWSERS[name]))
  if (missing.length === 0) return
  const packages = missing.join(' ')
  if (process.getuid?.() !== 0 || spawnSync('apt-get', ['--version']).status !== 0) {
    console.error(
      `The interface tests drive Debian’s browsers, and not all are in /usr/bin. Install them with: sudo apt-get update && sudo apt-get install -y ${packages}`,
    )
    process.exit(1)
  }
  say(`Installing ${packages} for the interface tests. This takes a minute or two.`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  must('apt-get update', run('apt-get', ['update', '-qq'], { env }))
  must(
    `apt-get install ${packages}`,
    run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], { env, stdio: ['ignore', 'ignore', 'inherit'] }),
  )
}

/** Starts the built server and waits until it answers. */
export async function startServer(env = {}) {
  const port = Number(env.PORT ?? process.env.PORT ?? 4280)
  const host = process.env.HOST ?? '127.0.0.1'
  const child = spawn(process.execPath, ['dist/server/main.js'], {
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, LOG_LEVEL: 'warn', ...env },
  })
  let ended = false
  child.on('exit', (code) => {
    ended = true
    process.exit(code ?? 0)
  })
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
  const address = `http://${host}:${port}`
  for (let tries = 0; tries < 100 && !ended; tries++) {
    const up = await fetch(`${address}/api/health`).then(
      (r) => r.ok,
      () => false,
    )
    if (up) return { address, child }
    await new Promise((done) => setTimeout(done, 100))
  }
  console.error(`The server did not answer on ${address}.`)
  child.kill()
  process.exit(1)
}
