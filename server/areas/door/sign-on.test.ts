import { STAND_IN, type Installation, type Me, type Problem, type Provider, type ProviderMode, type Settings } from '#contract'
import { serveEmpty, type Client, type TestServer } from '../../testing/serve'

const PROVIDER: Provider = {
  name: 'Orrin Vale account',
  issuer: STAND_IN,
  clientId: 'level-table',
  claim: 'preferred_username',
  makesPeople: false,
}
const PASSPHRASE = 'three herons over the weir'

let server: TestServer
let admin: Client
/** How long a provider may take; cut short only where it is not to answer. */
let seconds: number
beforeEach(async () => {
  seconds = 60
  server = await serveEmpty({ secret: 'known to both', standIn: true, seconds: () => seconds })
  const person = { name: 'Orsolya Tamm', signIn: 'orsolya', email: null, passphrase: PASSPHRASE }
  await (await server.as(null))('post', '/api/installation', { code: server.code, department: 'Cartography', ...person }).expect(200)
  admin = await server.as('orsolya', PASSPHRASE)
})
afterEach(() => server.close())

const settings = async () => (await admin('get', '/api/installation/settings').expect(200)).body as Settings
const offer = async (provider: Partial<Provider> | null = {}, passphrases = true) =>
  (
    await admin('put', '/api/installation/settings', {
      version: (await settings()).version,
      signOn: { passphrases, provider: provider && { ...PROVIDER, ...provider } },
    })
  ).body as Settings
const let_ = (mode: ProviderMode) => admin('put', '/api/installation/settings/stand-in', { mode }).expect(200)
const add = (signIn: string, name: string) => admin('post', '/api/people', { people: [{ name, signIn, email: null }] }).expect(200)

/** A browser of its own, as far as cookies go. */
function browser() {
  const jar = new Map<string, string>()
  const send = async (path: string, body?: unknown) => {
    const answer = await fetch(`${server.address}${path}`, {
      method: body === undefined ? 'GET' : 'POST',
      redirect: 'manual',
      headers: { origin: server.address, 'content-type': 'application/json', cookie: [...jar].map(([k, v]) => `${k}=${v}`).join('; ') },
      body: body === undefined ? undefined : JSON.stringify(body),
    })
    for (const c of answer.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(c)!
      jar.set(name!, value!)
    }
    return answer
  }
  return {
    send,
    begin: () => send('/api/sign-on/begin', {}).then((r) => r.json() as Promise<{ to: string }>),
    /** At the provider: says who it is, and is sent back. @returns what it is sent back with */
    async choose(to: string, who: Record<string, string>): Promise<string> {
      const asked = [...new URL(to).searchParams, ...Object.entries(who)]
      const back = await send(`/api/stand-in/sign-on/as?${new URLSearchParams(asked).toString()}`)
      return new URL(back.headers.get('location')!).search
    },
    finish: (query: string) => send('/api/sign-on', { query }),
    async comeIn(who: Record<string, string>) {
      const { to } = await this.begin()
      return this.finish(await this.choose(to, who))
    },
    me: () => send('/api/session').then((r) => r.json() as Promise<Me | null>),
  }
}
const detail = async (answer: Response) => ({ status: answer.status, detail: ((await answer.json()) as Problem).detail })
const audited = (kind: string) =>
  server.db
    .prepare<[string], { words: string }>('SELECT words FROM audit WHERE kind = ? ORDER BY id')
    .all(kind)
    .map((r) => r.words)

test('whoever the provider lets through is who has that sign-in here; the link that invited them ends', async () => {
  await offer()
  const [{ link }] = (await add('mora.fenn', 'Mora Fenn')).body as [{ link: string }]
  const b = browser()
  expect((await b.comeIn({ who: 'mora.fenn', name: 'M. Fenn' })).status).toBe(200)
  expect(await b.me()).toMatchObject({ name: 'Mora Fenn', admin: false })
  expect(audited('signed in').at(-1)).toBe('by Orrin Vale account')
  const used = await b.send('/api/way-in', { token: link.split('#')[1], passphrase: PASSPHRASE })
  expect(used.status).toBe(410)
  const people = (await admin('get', '/api/people').expect(200)).body as { signIn: string; state: string; hasPassphrase: boolean }[]
  expect(people.find((p) => p.signIn === 'mora.fenn')).toMatchObject({ state: 'in', hasPassphrase: false })
})

test('whom nobody knows is let in only where that is allowed, and then without any part', async () => {
  await offer()
  expect(await detail(await browser().comeIn({ who: 'new.comer', name: 'Nia Comer', email: 'nia@example.org' }))).toEqual({
    status: 403,
    detail: 'Nobody here has the sign-in new.comer. Ask whoever runs this installation to add you.',
  })
  await offer({ makesPeople: true })
  const b = browser()
  expect((await b.comeIn({ who: 'new.comer', name: 'Nia Comer', email: 'nia@example.org' })).status).toBe(200)
  expect(await b.me()).toMatchObject({ name: 'Nia Comer', admin: false })
  expect(await b.send('/api/courses').then((r) => r.json())).toEqual([])
  expect(server.db.prepare("SELECT email FROM person WHERE sign_in = 'new.comer'").get()).toEqual({ email: 'nia@example.org' })
  expect(audited('not let in')).toEqual(['Orrin Vale account: nobody here has that sign-in'])
})

test('who came in once is known by their account over there: also under another sign-in, and nobody else by the old one', async () => {
  await offer()
  await add('mora.fenn', 'Mora Fenn')
  expect((await browser().comeIn({ who: 'mora.fenn', account: 'first' })).status).toBe(200)
  const renamed = browser()
  expect((await renamed.comeIn({ who: 'mora.fenn-hale', account: 'first' })).status).toBe(200)
  expect(await renamed.me()).toMatchObject({ name: 'Mora Fenn' })
  expect((await detail(await browser().comeIn({ who: 'mora.fenn', account: 'second' }))).detail).toContain('belonged to another account')
  // Invited again, they are known by their sign-in anew.
  const { id } = server.db.prepare("SELECT id FROM person WHERE sign_in = 'mora.fenn'").get() as { id: string }
  await admin('post', `/api/people/${id}/way-in`).expect(200)
  expect((await browser().comeIn({ who: 'mora.fenn', account: 'second' })).status).toBe(200)
})

test('who is not active is not let in', async () => {
  await offer()
  await add('mora.fenn', 'Mora Fenn')
  expect((await browser().comeIn({ who: 'mora.fenn' })).status).toBe(200)
  server.db.prepare("UPDATE person SET active = 0 WHERE sign_in = 'mora.fenn'").run()
  expect((await detail(await browser().comeIn({ who: 'mora.fenn' }))).detail).toMatch(/not active/)
})

test.each<[ProviderMode, number, RegExp]>([
  ['leaves the claim out', 403, /did not say who you are here \(preferred_username\)/],
  ['answers another question', 502, /cannot be trusted/],
  ['signs with another key', 502, /cannot be trusted/],
  ['fails', 502, /cannot be reached/],
  ['is slow', 504, /did not answer in time/],
])('a provider that %s lets nobody in, and says so', async (mode, status, says) => {
  await offer()
  await add('mora.fenn', 'Mora Fenn')
  const b = browser()
  const { to } = await b.begin()
  const query = await b.choose(to, { who: 'mora.fenn' })
  await let_(mode)
  if (mode === 'is slow') seconds = 0.05
  const answer = await detail(await b.finish(query))
  expect(answer.status).toBe(status)
  expect(answer.detail).toMatch(says)
  expect(await b.me()).toBeNull()
  expect(audited('not let in')).toHaveLength(1)
  // What was begun is good once, whatever came of it.
  await let_('works')
  seconds = 60
  expect((await b.finish(query)).status).toBe(410)
  expect((await b.comeIn({ who: 'mora.fenn' })).status).toBe(200)
})

test('a provider that fails from the beginning is said at the door, and before it is saved', async () => {
  await offer()
  await let_('fails')
  expect(await detail(await browser().send('/api/sign-on/begin', {}))).toMatchObject({ status: 502 })
  await admin('post', '/api/installation/settings/try-provider', PROVIDER).expect(502)
  await let_('works')
  const { body } = await admin('post', '/api/installation/settings/try-provider', PROVIDER).expect(200)
  expect(body).toEqual({ issuer: `${server.address}/api/stand-in/sign-on`, claims: ['sub', 'preferred_username', 'name', 'email'] })
  // Nothing listens there.
  const nowhere = await admin('post', '/api/installation/settings/try-provider', { ...PROVIDER, issuer: 'http://127.0.0.1:1' }).expect(502)
  expect((nowhere.body as Problem).detail).toMatch(/cannot be reached/)
})

test('what one browser began, another cannot finish; nor with another state, nor after a refusal over there', async () => {
  await offer({ makesPeople: true })
  const [mine, theirs] = [browser(), browser()]
  const query = await mine.choose((await mine.begin()).to, { who: 'mora.fenn' })
  expect((await theirs.finish(query)).status).toBe(410)
  await theirs.begin()
  expect((await theirs.finish(query)).status).toBe(502)
  expect(await theirs.me()).toBeNull()
  expect(await detail(await browser().comeIn({ who: '' }))).toEqual({ status: 403, detail: 'Orrin Vale account did not let you through.' })
  const strange = await fetch(`${server.address}/api/sign-on`, { method: 'POST', headers: { origin: 'http://elsewhere.example' } })
  expect(strange.status).toBe(403)
})

test('the stand-in sends nobody away from this server, and takes a code once and with its proof only', async () => {
  await offer({ makesPeople: true })
  const b = browser()
  const { to } = await b.begin()
  const asked = new URL(to).searchParams
  asked.set('redirect_uri', 'http://elsewhere.example/signed-on')
  expect((await b.send(`/api/stand-in/sign-on/as?${asked.toString()}&who=mora`)).status).toBe(400)
  const code = new URLSearchParams(await b.choose(to, { who: 'mora' })).get('code')!
  const form = new URLSearchParams({ code, code_verifier: 'guessed', redirect_uri: `${server.address}/signed-on` })
  const token = () => fetch(`${server.address}/api/stand-in/sign-on/token`, { method: 'POST', body: form })
  expect((await token()).status).toBe(400)
  expect((await token()).status).toBe(400)
})

test('without passphrases only who administers comes in by one, and who is invited is led to the door', async () => {
  const [{ link }] = (await add('mora.fenn', 'Mora Fenn')).body as [{ link: string }]
  const token = link.split('#')[1]
  await offer({}, false)
  expect((await (await server.as(null))('get', '/api/installation').expect(200)).body as Installation).toMatchObject({
    passphrases: false,
    provider: 'Orrin Vale account',
  })
  const nobody = await server.as(null)
  expect(((await nobody('post', '/api/way-in/look', { token }).expect(403)).body as Problem).detail).toMatch(
    /come in by Orrin Vale account/,
  )
  await nobody('post', '/api/way-in', { token, passphrase: PASSPHRASE }).expect(403)
  const [way] = (await add('tor.ellis', 'Tor Ellis')).body as [{ link: string; endsAt: string | null }]
  expect(way).toMatchObject({ link: `${server.address}/`, endsAt: null })
  await server.as('orsolya', PASSPHRASE)
  // Somebody who had one before.
  server.db
    .prepare(
      "UPDATE person SET passphrase_hash = (SELECT passphrase_hash FROM person WHERE sign_in = 'orsolya') WHERE sign_in = 'mora.fenn'",
    )
    .run()
  await nobody('post', '/api/session', { signIn: 'mora.fenn', passphrase: PASSPHRASE }).expect(403)
})

test('settings: an old version is told, what cannot be is refused, and all of it stands on the list', async () => {
  const before = await settings()
  expect(before).toMatchObject({ department: 'Cartography', secret: true, standIn: 'works', backTo: `${server.address}/signed-on` })
  expect(JSON.stringify(before)).not.toContain('known to both')
  await admin('put', '/api/installation/settings', { version: before.version, department: 'Cartography and Field Survey' }).expect(200)
  const stale = await admin('put', '/api/installation/settings', { version: before.version, department: 'Maps' }).expect(409)
  expect((stale.body as Problem & { current: Settings }).current.department).toBe('Cartography and Field Survey')
  const set = async (signOn: unknown) => admin('put', '/api/installation/settings', { version: (await settings()).version, signOn })
  expect((await set({ passphrases: false, provider: null })).status).toBe(422)
  expect((await set({ passphrases: true, provider: { ...PROVIDER, issuer: 'http://sign-on.example.org' } })).status).toBe(422)
  expect((await set({ passphrases: true, provider: { ...PROVIDER, issuer: 'https://a:b@sign-on.example.org' } })).status).toBe(422)
  await offer()
  await let_('fails')
  expect(audited('setting')).toEqual([
    'department: Cartography and Field Survey',
    'coming in: passphrases, Orrin Vale account (stand-in), claim preferred_username, makes nobody',
  ])
  expect(audited('stand-in')).toEqual(['sign-on fails'])
})

test('where neither the data is the demo’s nor the stand-in was asked for, it is not there', async () => {
  const other = await serveEmpty()
  try {
    expect((await fetch(`${other.address}/api/stand-in/sign-on/keys`)).status).toBe(404)
    await (await other.as(null))('post', '/api/sign-on/begin', {}).expect(404)
  } finally {
    await other.close()
  }
})

test('whoever begins without end pushes out what they began first, and no more is kept', async () => {
  await offer({ makesPeople: true })
  const [first, last] = [browser(), browser()]
  const query = await first.choose((await first.begin()).to, { who: 'mora' })
  const many = browser()
  for (let i = 0; i < 99; i++) await many.begin()
  const kept = await last.choose((await last.begin()).to, { who: 'tor' })
  expect((await first.finish(query)).status).toBe(410)
  expect((await last.finish(kept)).status).toBe(200)
})
