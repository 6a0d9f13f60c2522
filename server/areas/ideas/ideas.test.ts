import type { Idea } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let external: Client
beforeAll(async () => {
  external = await server.as('tamsin.oyelaran.holt')
}, 60_000)

const changes = [{ kind: 'weigh', componentId: `${COURSE}-c-viva`, weight: 12 }]
const keep = (name: string, stop = 'rescale') => lead('post', api('/ideas'), { stop, name, changes })
const all = async (who = lead) => (await who('get', api('/ideas')).expect(200)).body as Idea[]

test('four ideas are kept at a stop, each under a name of its own; they come into force by nothing of that', async () => {
  const versionOf = () => server.db.prepare('SELECT version FROM course WHERE id = ?').pluck().get(COURSE)
  const before = versionOf()
  const { id } = (await keep('Viva counts more').expect(200)).body as Idea
  expect((await keep('Viva counts more').expect(409)).body).toMatchObject({ field: 'name' })
  // At the other stop the name is free.
  await keep('Viva counts more', 'bound').expect(200)
  for (const name of ['b', 'c', 'd']) await keep(name).expect(200)
  expect((await keep('e').expect(409)).body).toMatchObject({ detail: expect.stringMatching(/^4 ideas are kept already/) as string })
  const renamed = (await lead('put', api(`/ideas/${id}/name`), { name: 'More viva' }).expect(200)).body as Idea
  expect(renamed).toMatchObject({ id, name: 'More viva', changes, by: 'Ines Valdry' })
  await lead('put', api(`/ideas/${id}/name`), { name: 'b' }).expect(409)
  await lead('delete', api(`/ideas/${id}`)).expect(204)
  await lead('delete', api(`/ideas/${id}`)).expect(404)
  expect((await all()).filter((i) => i.stop === 'rescale').map((i) => i.name)).toEqual(['b', 'c', 'd'])
  expect(versionOf()).toBe(before)
})

test('who looks over the lead’s shoulder sees them and keeps none; a marker sees none', async () => {
  expect((await all(external)).length).toBeGreaterThan(0)
  await external('post', api('/ideas'), { stop: 'rescale', name: 'mine', changes }).expect(403)
  const marker = await server.as('milo.quill')
  await marker('get', api('/ideas')).expect(403)
})

test('an idea without a name or a change is refused with what to do', async () => {
  expect((await lead('post', api('/ideas'), { stop: 'rescale', name: ' ', changes }).expect(422)).body).toMatchObject({
    detail: expect.stringMatching(/Give it a name/) as string,
  })
  await lead('post', api('/ideas'), { stop: 'rescale', name: 'none', changes: [] }).expect(422)
})
