import type { Note, TableInColumns } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let external: Client
beforeAll(async () => {
  external = await server.as('tamsin.oyelaran.holt')
}, 60_000)

const leave = (who: Client, about: object, words = 'High for what its students do elsewhere?') =>
  who('post', api('/notes'), { about, words })

test('the external notes something on a section of one assessment; the lead answers once, and both stay', async () => {
  const { sections, version } = (await lead('get', api('/table')).expect(200)).body as TableInColumns
  const about = { kind: 'section', id: sections[2]!.id, assessmentId: `${COURSE}-paper-1` }
  const note = (await leave(external, about).expect(200)).body as Note
  expect(note).toMatchObject({ about, by: 'Tamsin Oyelaran-Holt', answer: null })
  const answered = (await lead('put', api(`/notes/${note.id}/answer`), { words: 'The paper was easier there.' }).expect(200)).body as Note
  expect(answered.answer).toMatchObject({ by: 'Ines Valdry', words: 'The paper was easier there.' })
  expect((await lead('put', api(`/notes/${note.id}/answer`), { words: 'Again.' }).expect(409)).body).toMatchObject({
    detail: 'Ines Valdry has answered it already.',
  })
  expect(((await external('get', api('/notes')).expect(200)).body as Note[])[0]).toEqual(answered)
  // It changes no figure.
  expect(((await lead('get', api('/table')).expect(200)).body as TableInColumns).version).toBe(version)
  expect(() => server.db.exec('DELETE FROM note')).toThrow(/stays on the record/)
})

test.each([
  [{ kind: 'section', id: 'nowhere', assessmentId: null }, 404],
  [{ kind: 'marker', id: 'ines', assessmentId: null }, 404],
  [{ kind: 'decision', id: 'none', assessmentId: null }, 404],
  [{ kind: 'script', id: 'none', assessmentId: null }, 404],
  [{ kind: 'student', id: 'x', assessmentId: null }, 422],
])('a note on what is not there is refused: %j', async (about, status) => {
  await leave(external, about).expect(status)
})

test('a marker is told of no note, and leaves none; the external answers none', async () => {
  const marker = await server.as('tadesse.abara')
  await marker('get', api('/notes')).expect(403)
  await leave(marker, { kind: 'marker', id: 'marker-1', assessmentId: null }).expect(403)
  const note = (await leave(external, { kind: 'marker', id: 'marker-2', assessmentId: null }).expect(200)).body as Note
  await external('put', api(`/notes/${note.id}/answer`), { words: 'So it is.' }).expect(403)
})
