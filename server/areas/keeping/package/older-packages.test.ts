import { copyFileSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gradeWorkings, workingsOf } from '#core/trial'
import { planLoader } from '../../../kernel/course/load-plan'
import { tableLoader } from '../../../kernel/course/load-table'
import { latestVersion, openDatabase } from '../../../kernel/db/open'
import { bringIn } from './bring-in'

/** Each as the program of its schema took it out: the demo’s earlier course, confirmed, with 60 students. */
const PACKAGES = 'server/testing/older-packages'

const FIRST = 17
/** No course could be taken out at this one. */
const NEVER = 29

let folder: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'level-table-older-'))
  openDatabase(join(folder, 'empty.db')).close()
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

test('one is kept of every schema that packages were made at: a new schema adds one', () => {
  const made = Array.from({ length: latestVersion() - FIRST + 1 }, (_, i) => FIRST + i).filter((schema) => schema !== NEVER)
  expect(readdirSync(PACKAGES).sort()).toEqual(made.map((schema) => `schema-${schema}.zip`))
})

test.each(readdirSync(PACKAGES))('a course that was taken out at an earlier schema comes in and can be worked out: %s', async (name) => {
  const [file, packed] = [join(folder, `${name}.db`), join(folder, name)]
  copyFileSync(join(folder, 'empty.db'), file)
  copyFileSync(join(PACKAGES, name), packed)
  const courseId = await bringIn({ file, packed })
  const db = openDatabase(file)
  try {
    const graded = gradeWorkings(workingsOf(tableLoader(db, planLoader(db)).load(courseId)))
    expect(graded.students.some((s) => s.final !== null)).toBe(true)
  } finally {
    db.close()
  }
})
