import { standingMarks, standingRows, workingsOf } from '#core/trial'
import { COURSE, serveDemo, type TestServer } from '../../testing/serve'
import { courseWrites } from './course-writes'
import { planLoader } from './load-plan'
import { tableLoader } from './load-table'
import { workedOut, type WorkedOut } from './worked-out'

let server: TestServer
beforeAll(async () => void (server = await serveDemo()), 60_000)
afterAll(() => server.close())

const seen = ({ workings, standing }: Pick<WorkedOut, 'workings' | 'standing'>) => standingRows(workings, standing)

test('what was written since is taken over, and comes to what it comes to worked out anew', async () => {
  const { db } = server
  const tables = tableLoader(db, planLoader(db))
  const writes = courseWrites(db, tables.keepMarks)
  const worked = workedOut(tables, writes)
  const anew = () => {
    const workings = workingsOf(tableLoader(db).load(COURSE))
    return seen({ workings, standing: standingMarks(workings) })
  }
  const first = await worked(COURSE)
  expect(await worked(COURSE)).toBe(first)

  const { studentId, assessmentId } = seen(first).find((m) => m.source === 'entered' && m.status === 'in' && m.mark !== null)!
  const scriptId = `${assessmentId}:${studentId}`
  writes.writeMarks(
    COURSE,
    () => {
      db.prepare('UPDATE script SET entered = 1, version = version + 1 WHERE id = ?').run(scriptId)
      return [{ studentId, assessmentId }]
    },
    (cells) => cells,
  )
  tables.patchReadings(COURSE, [{ studentId, assessmentId }])
  const marked = await worked(COURSE)
  expect([marked.applies, marked.workings.readings]).toEqual([first.applies, first.workings.readings])
  expect(seen(marked).find((m) => m.scriptId === scriptId)!.plain).toBe(1)
  expect(seen(marked)).toEqual(anew())

  writes.writeBesideOpen(COURSE, () => db.prepare('UPDATE course SET boundaries = json_replace(boundaries, ?, 69.5)').run('$[1].from'))
  const decided = await worked(COURSE)
  expect(decided.workings.course.boundaries[1]!.from).toBe(69.5)
  expect(decided.workings.scripts.entered).toBe(marked.workings.scripts.entered)

  // A write that says nothing of what it was about: all is read anew.
  writes.writeOpen(COURSE, () => db.prepare('UPDATE script SET entered = 2, version = version + 1 WHERE id = ?').run(scriptId))
  expect(seen(await worked(COURSE))).toEqual(anew())
})
