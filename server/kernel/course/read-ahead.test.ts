import { COURSE, serveDemo, serveEmpty, type TestServer } from '../../testing/serve'
import { readAhead } from './read-ahead'
import { tableLoader } from './load-table'

const servers: TestServer[] = []
afterAll(() => Promise.all(servers.map((s) => s.close())))

test('the course that was decided in last is there before anybody asks', async () => {
  const { db } = servers[servers.push(await serveDemo()) - 1]!
  const tables = tableLoader(db)
  await readAhead(db, tables)
  // Beside the application, so that no version tells of it: what comes is what was read before.
  db.prepare('UPDATE script SET entered = 0 WHERE entered > 0').run()
  expect(tables.load(COURSE).scripts.entered.some((mark) => mark !== null && mark > 0)).toBe(true)
  expect(
    tableLoader(db)
      .load(COURSE)
      .scripts.entered.some((mark) => mark !== null && mark > 0),
  ).toBe(false)
}, 60_000)

test('where nothing was decided nothing is read', async () => {
  const { db } = servers[servers.push(await serveEmpty()) - 1]!
  await expect(readAhead(db, tableLoader(db))).resolves.toBeUndefined()
}, 60_000)
