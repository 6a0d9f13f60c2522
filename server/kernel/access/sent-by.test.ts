import { COURSE, serveDemo, type Client, type TestServer } from '../../testing/serve'

let server: TestServer
let marker: Client
beforeAll(async () => {
  server = await serveDemo()
  marker = await server.as('rune.daal')
}, 60_000)
afterAll(() => server.close())

const idOf = (signIn: string) => (server.db.prepare('SELECT id FROM person WHERE sign_in = ?').get(signIn) as { id: string }).id
const keep = (words: string) => marker('post', `/api/courses/${COURSE}/kept-comments`, { words })
const kept = () => server.db.prepare('SELECT words FROM kept_comment WHERE person_id = ?').pluck().all(idOf('rune.daal'))

test('what a page sends for one person is not taken for whoever signed in in that browser since', async () => {
  await keep('Said by the page of another.').set('x-signed-in-as', idOf('ines.valdry')).expect(401)
  await marker('get', `/api/courses/${COURSE}/sheet`).set('x-signed-in-as', idOf('ines.valdry')).expect(401)
  expect(kept()).not.toContain('Said by the page of another.')
  await keep('Said by one’s own page.').set('x-signed-in-as', idOf('rune.daal')).expect(200)
  await keep('Said by a page that does not tell.').expect(200)
  expect(kept()).toEqual(expect.arrayContaining(['Said by one’s own page.', 'Said by a page that does not tell.']))
})
