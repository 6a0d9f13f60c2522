import { api, COURSE, demoServer } from '../../testing/serve'

const { server, lead } = demoServer()

test('a full disk is said as such, health says that nothing can be written, and all goes on once there is room', async () => {
  const { db } = server
  const section = db.prepare<[string], { id: string }>('SELECT id FROM section WHERE course_id = ?').get(COURSE)!
  const pages = db.pragma('page_count', { simple: true }) as number
  // What is free already takes the first of them.
  db.pragma(`max_page_count = ${pages}`)
  const note = () => lead('post', api('/notes'), { about: { kind: 'section', id: section.id, assessmentId: null }, words: 'w'.repeat(900) })
  let answer = await note()
  for (let tries = 0; answer.status === 200 && tries < 3000; tries++) answer = await note()
  expect(answer.status).toBe(507)
  expect(answer.body.detail).toMatch(/disk is full.*nothing was saved/)
  expect((await lead('get', '/api/health')).status).toBe(503)
  db.pragma('max_page_count = 1000000')
  expect((await lead('get', '/api/health')).status).toBe(200)
  expect((await note()).status).toBe(200)
})
