import { mkdtempSync, rmSync, statSync } from 'node:fs'
import { get, request as ask, type IncomingMessage } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import type { AddressInfo } from 'node:net'
import { PASSPHRASE } from '../../demo/department'
import { createApp } from '../app'
import { refuseOverfull } from './body'
import { openDatabase } from './db/open'
import { COURSE, demoServer } from '../testing/serve'

const { server, lead } = demoServer()

interface Sent {
  path: string
  body?: Buffer | string
  method?: string
  headers?: Record<string, string>
}
/** A request as it stands, with no client's help. */
const send = ({
  path,
  body,
  method = 'POST',
  headers = {},
}: Sent): Promise<{ status: number; text: string; headers: IncomingMessage['headers'] }> =>
  new Promise((done, failed) => {
    const sent = ask(
      `${server.address}${path}`,
      { method, headers: { origin: server.address, 'content-type': 'application/json', ...headers } },
      (res) => {
        let text = ''
        res.setEncoding('utf8')
        res.on('data', (part: string) => (text += part))
        res.on('end', () => done({ status: res.statusCode!, text, headers: res.headers }))
      },
    )
    sent.on('error', failed)
    sent.end(body)
  })

const signedIn = async (signIn = 'ines.valdry') => {
  const { headers } = await send({ path: '/api/session', body: JSON.stringify({ signIn, passphrase: PASSPHRASE }) })
  return String(headers['set-cookie']).split(';')[0]!
}

describe('access, origin and size are looked at before a body is read', () => {
  test('a packed body is refused as it stands, from a stranger and from anybody', async () => {
    const bomb = gzipSync(Buffer.from(`{"signIn":"${' '.repeat(5_000_000)}"}`))
    const headers = { 'content-encoding': 'gzip' }
    expect((await send({ path: '/api/session', body: bomb, headers })).status).toBe(415)
    const cookie = await signedIn()
    expect((await send({ path: `/api/courses/${COURSE}/marks-file/try`, body: bomb, headers: { ...headers, cookie } })).status).toBe(415)
  })

  test('a stranger is heard out for 16 KB, and not at all where there is nothing for them', async () => {
    const long = JSON.stringify({ signIn: 'x', passphrase: 'y'.repeat(17_000) })
    expect((await send({ path: '/api/session', body: long })).status).toBe(413)
    // Said before the body has come: its length alone is known.
    const unread = await new Promise<number>((done, failed) => {
      const sent = ask(`${server.address}/api/courses/${COURSE}/marks-file`, {
        method: 'POST',
        headers: { origin: server.address, 'content-type': 'application/json', 'content-length': '16000000' },
      })
      sent.on('response', (res) => {
        done(res.statusCode!)
        sent.destroy()
      })
      sent.on('error', (e: NodeJS.ErrnoException) => e.code !== 'ECONNRESET' && failed(e))
      sent.write('{')
    })
    expect(unread).toBe(401)
  })

  test('from elsewhere nothing is read either', async () => {
    expect((await send({ path: '/api/session', body: '{}', headers: { origin: 'http://elsewhere.example' } })).status).toBe(403)
    expect((await send({ path: '/api/session', body: '{}', headers: { origin: server.address.replace('http', 'https') } })).status).toBe(
      403,
    )
  })

  test('what is nested deep or holds very many values is refused by count', async () => {
    const limit = { values: 10, depth: 3 }
    const counts = (text: string) => () => refuseOverfull(Buffer.from(text), limit)
    expect(counts('[[[1]]]')).not.toThrow()
    expect(counts('[[[[1]]]]')).toThrow('nested deeper than 3 levels')
    expect(counts('[1,2,3,4,5,6,7,8,9]')).not.toThrow()
    expect(counts('[1,2,3,4,5,6,7,8,9,10,11]')).toThrow('more than 10 values')
    // What stands in texts is no value.
    expect(counts(String.raw`["a,b,c,d,e,f,[[[[,g","\",\\\",,,,,,,,", "x\\"]`)).not.toThrow()
    expect((await lead('patch', `/api/courses/${COURSE}/sheet`, { cells: Array.from({ length: 700_000 }, () => 0) })).status).toBe(413)
  })
})

describe('signing in', () => {
  const tryOne = (signIn: string) => send({ path: '/api/session', body: JSON.stringify({ signIn, passphrase: 'wrong' }) })
  test('an account is slowed down after a few failures, with how long to wait, and nobody else with it', async () => {
    for (let i = 0; i < 4; i++) expect((await tryOne('rune.daal')).status).toBe(401)
    const slowed = await tryOne('rune.daal')
    expect([slowed.status, slowed.headers['retry-after']]).toEqual([429, '1'])
    expect((await tryOne('lea.ostrand')).status).toBe(401)
    await server.as('ines.valdry')
  })

  test('signing out ends what was still listening', async () => {
    const cookie = await signedIn()
    const ended = new Promise<void>((done, failed) => {
      get(`${server.address}/api/courses/${COURSE}/events`, { headers: { cookie } }, (res) => {
        res.once('data', () => void send({ path: '/api/session', method: 'DELETE', headers: { cookie } }).catch(failed))
        res.on('end', done)
      }).on('error', failed)
    })
    await ended
  })

  test('who loses their part in a course hears nothing more of it', async () => {
    const { id, signIn } = server.db
      .prepare<[string], { id: string; signIn: string }>(
        "SELECT p.id, p.sign_in AS signIn FROM course_role r JOIN person p ON p.id = r.person_id WHERE r.course_id = ? AND r.role = 'external'",
      )
      .get(COURSE)!
    const cookie = await signedIn(signIn)
    const ended = new Promise<string>((done, failed) => {
      get(`${server.address}/api/courses/${COURSE}/events`, { headers: { cookie } }, (res) => {
        let heard = ''
        res.setEncoding('utf8')
        res.once('data', () => void lead('delete', `/api/courses/${COURSE}/people/${id}`).expect(200).then(undefined, failed))
        res.on('data', (part: string) => (heard += part))
        res.on('end', () => done(heard))
      }).on('error', failed)
    })
    expect((await ended).match(/data: /g)).toHaveLength(1)
  })
})

describe('behind a proxy', () => {
  const served = async (options: object) => {
    const app = createApp(server.db, options)
    const own = app.listen(0, '127.0.0.1')
    await new Promise((up) => own.once('listening', up))
    return {
      address: `http://127.0.0.1:${(own.address() as AddressInfo).port}`,
      close: async () => {
        await new Promise((done) => own.close(done))
        await (app.locals.stop as () => Promise<void>)()
      },
    }
  }
  const signIn = (address: string, headers: Record<string, string>) =>
    fetch(`${address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...headers },
      body: JSON.stringify({ signIn: 'ines.valdry', passphrase: PASSPHRASE }),
    })

  test('over TLS the cookie is bound to the host and is never sent in plain, and browsers are told to stay with TLS', async () => {
    const { address, close } = await served({ proxies: 1 })
    const host = new URL(address).host
    const plain = await signIn(address, { origin: address })
    expect(plain.headers.get('set-cookie')).toMatch(/^level_table_session=(?!.*Secure)/)
    expect(plain.headers.get('strict-transport-security')).toBeNull()
    const secure = await signIn(address, { origin: `https://${host}`, 'x-forwarded-proto': 'https' })
    expect(secure.headers.get('set-cookie')).toMatch(/^__Host-level_table_session=.*Path=\/.*HttpOnly; Secure; SameSite=Strict/)
    expect(secure.headers.get('strict-transport-security')).toMatch(/max-age=\d{8}/)
    await close()
  })

  test('without a proxy to trust, nobody is believed what they say of themselves', async () => {
    const { address, close } = await served({})
    const lying = await signIn(address, { origin: address, 'x-forwarded-proto': 'https' })
    expect(lying.headers.get('set-cookie')).toMatch(/^level_table_session=/)
    await close()
  })

  test('with an address of its own, it answers under no other and takes writes from no other', async () => {
    const { address, close } = await served({ origin: 'https://marks.example.org', proxies: 1 })
    expect((await fetch(`${address}/api/installation`)).status).toBe(421)
    await close()
  })

  test('what watches over it on its own machine asks past the proxy, and nobody gets in behind it by a forwarded name', async () => {
    const { address, close } = await served({ origin: 'https://marks.example.org', proxies: 1, metrics: true })
    expect((await fetch(`${address}/api/health`)).status).toBe(200)
    expect((await fetch(`${address}/metrics`)).status).toBe(200)
    const { port } = new URL(address)
    const status = await new Promise<number | undefined>((done) =>
      get({ port, host: '127.0.0.1', path: '/metrics', headers: { host: 'other.example.org', 'x-forwarded-host': '127.0.0.1' } }, (res) => {
        res.resume()
        done(res.statusCode)
      }),
    )
    expect(status).toBe(421)
    await close()
  })
})

test('what is made is for the server’s own account alone, whatever the umask', () => {
  const before = process.umask(0)
  const folder = join(mkdtempSync(join(tmpdir(), 'level-table-modes-')), 'data')
  try {
    const db = openDatabase(join(folder, 'level-table.db'))
    const mode = (path: string) => (statSync(path).mode & 0o777).toString(8)
    expect([mode(folder), mode(db.name), mode(`${db.name}-wal`)]).toEqual(['700', '600', '600'])
    db.close()
  } finally {
    process.umask(before)
    rmSync(join(folder, '..'), { recursive: true, force: true })
  }
})
