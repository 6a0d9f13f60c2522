import { openDatabase, type Db } from '../db/open'
import { buildDemo } from '../../../demo/build'
import { courseWrites } from './course-writes'

const COURSE = 'cfs214-2026'
let db: Db
beforeAll(() => {
  db = openDatabase(':memory:')
  buildDemo(db, { students: 80, sections: 8, markers: 11, seed: 3 })
}, 60_000)
afterAll(() => db.close())

const version = () => (db.prepare('SELECT version FROM course WHERE id = ?').get(COURSE) as { version: number }).version

test('writes of one turn are each answered, one that is refused takes nothing of the others with it, and all are told as one', async () => {
  const writes = courseWrites(db)
  const heard: number[] = []
  writes.onChange(COURSE, (v) => heard.push(v))
  const before = version()
  const taken: unknown[][] = []
  const note = (n: number) => () => {
    db.prepare('UPDATE course SET title = title WHERE id = ?').run(COURSE)
    return { studentId: String(n), assessmentId: 'a' }
  }
  const send = (work: () => { studentId: string; assessmentId: string }) =>
    writes.writeMarksTogether(
      COURSE,
      work,
      (one) => [one],
      (all) => void taken.push([...all]),
    )
  const refused = () => {
    db.prepare("UPDATE course SET title = 'half done' WHERE id = ?").run(COURSE)
    throw new Error('not this one')
  }
  const answers = await Promise.allSettled([send(note(1)), send(refused), send(note(2))])
  expect(answers.map((a) => a.status)).toEqual(['fulfilled', 'rejected', 'fulfilled'])
  expect((db.prepare('SELECT title FROM course WHERE id = ?').get(COURSE) as { title: string }).title).not.toBe('half done')
  expect([version(), heard, taken.map((t) => t.length)]).toEqual([before + 2, [before + 2], [2]])
  expect(writes.since(COURSE, before)).toEqual({
    cells: [
      { studentId: '1', assessmentId: 'a' },
      { studentId: '2', assessmentId: 'a' },
    ],
    plan: false,
  })
})

test('where they cannot be made durable none is acknowledged, and nothing of any is left', async () => {
  const writes = courseWrites(db)
  const before = version()
  db.pragma('query_only = ON')
  const answer = writes.writeMarksTogether(
    COURSE,
    () => 1,
    () => [],
    () => undefined,
  )
  // By its code: its class may be loaded more than once in a process of tests.
  await expect(answer).rejects.toMatchObject({ code: 'SQLITE_READONLY' })
  db.pragma('query_only = OFF')
  expect(version()).toBe(before)
})
