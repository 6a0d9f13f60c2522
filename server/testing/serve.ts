import { EventEmitter, once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { get } from 'node:http'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import supertest from 'supertest'
import { buildDemo } from '../../demo/build'
import { PASSPHRASE } from '../../demo/department'
import type { SetUpCode } from '../kernel/access/set-up-code'
import { createApp } from '../app'
import { openDatabase, type Db } from '../kernel/db/open'

export const COURSE = 'cfs214-2026'
export const api = (path: string) => `/api/courses/${COURSE}${path}`

/** Built before the tests (`build-workers.mjs`). */
const WORKERS = { filename: join(process.cwd(), 'test-results/workers/files.js') }

type SignOn = NonNullable<Parameters<typeof createApp>[1]>['signOn']

/** Small enough to build for every test file, large enough for all that is planted. */
const SIZE = { students: 120, sections: 8, markers: 11, seed: 7 }

export interface TestServer {
  db: Db
  file: string
  address: string
  /** Someone signed in, with a same-origin header on every request; null is nobody. */
  as: (signIn: string | null, passphrase?: string) => Promise<Client>
  /** Hears the events of a course as somebody does. */
  listen: (signIn: string, courseId?: string) => Promise<Listener>
  /** By which it is set up, while nobody is here. */
  code: string
  close: () => Promise<void>
}

export interface Listener {
  /** All that was heard, once there is enough of it. */
  until: (enough: (heard: string) => boolean) => Promise<string>
  end: () => void
}

export type Client = (method: 'get' | 'post' | 'put' | 'patch' | 'delete', path: string, body?: unknown) => supertest.Test

/** A real server over a real file with the demo in it. */
export const serveDemo = (): Promise<TestServer> => serve((db) => buildDemo(db, SIZE))

/** The server of a file of tests, and the lead of its course signed in: up before the first of them, gone after the last. */
export function demoServer(): { server: TestServer; lead: Client } {
  let up: TestServer
  let signedIn: Client
  beforeAll(async () => {
    up = await serveDemo()
    signedIn = await up.as('ines.valdry')
  }, 60_000)
  afterAll(() => up.close())
  return {
    // What tests hold of it is there before it is.
    server: new Proxy({} as TestServer, { get: (_, name: keyof TestServer) => up[name] }),
    lead: (...asks) => signedIn(...asks),
  }
}

/** A real server over an empty folder. */
export const serveEmpty = (signOn?: SignOn): Promise<TestServer> => serve(() => undefined, signOn)

async function serve(fill: (db: Db) => void, signOn?: SignOn): Promise<TestServer> {
  const folder = mkdtempSync(join(tmpdir(), 'level-table-test-'))
  const file = join(folder, 'level-table.db')
  const db = openDatabase(file)
  fill(db)
  let address = ''
  const app = createApp(db, { address: () => address, signOn, workers: WORKERS })
  const server = app.listen(0, '127.0.0.1')
  await new Promise((up) => server.once('listening', up))
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  const request = supertest(address)
  const host = new URL(address).host
  const cookieOf = async (signIn: string, passphrase: string): Promise<string> => {
    const answer = await request.post('/api/session').set('origin', `http://${host}`).send({ signIn, passphrase }).expect(200)
    return String(answer.headers['set-cookie']).split(';')[0]!
  }
  return {
    db,
    file,
    address,
    code: (app.locals.setUp as SetUpCode).code,
    async as(signIn, passphrase = PASSPHRASE) {
      const cookie = signIn ? await cookieOf(signIn, passphrase) : ''
      return (method, path, body) => {
        const test = request[method](path).set('origin', `http://${host}`)
        if (cookie) void test.set('cookie', cookie)
        if (body !== undefined) void test.send(body as object)
        return test
      }
    },
    async listen(signIn, courseId = COURSE) {
      let text = ''
      const parts = new EventEmitter()
      const headers = { cookie: await cookieOf(signIn, PASSPHRASE) }
      const asked = get(`${address}/api/courses/${courseId}/events`, { headers }, (res) => {
        res.setEncoding('utf8')
        res.on('data', (part: string) => {
          text += part
          parts.emit('part')
        })
      })
      // The other end hangs up when it is ended.
      asked.on('error', () => undefined)
      return {
        async until(enough) {
          while (!enough(text)) await once(parts, 'part')
          return text
        },
        end: () => void asked.destroy(),
      }
    },
    async close() {
      server.closeAllConnections()
      await new Promise((done) => server.close(done))
      await (app.locals.stop as () => Promise<void>)()
      db.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
