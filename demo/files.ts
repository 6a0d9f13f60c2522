import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Db } from '../server/kernel/db/open'
import { sectionId } from './department'
import { half, clamp, random } from './random'
import { THIS_YEAR } from './story'

/** The marks that Octant's teacher sends at the end: a file to bring in, and one with mistakes to see refused. */
export function writeIncoming(db: Db, folder: string): string {
  const rng = random(5)
  const roll = db
    .prepare(
      'SELECT s.candidate, s.name FROM student s JOIN enrolment e ON e.student_id = s.id WHERE e.section_id = ? ORDER BY s.candidate',
    )
    .all(sectionId(THIS_YEAR, 5)) as { candidate: string; name: string }[]
  const rows = roll.map(
    (s, i) => `${s.candidate},${s.name},${i === 4 ? 'missing' : i === 9 ? '15.5 late 2' : clamp(half(rng.normal(15.8, 3)), 0, 24)}`,
  )
  const head = 'candidate,name,Stereo heights'
  mkdirSync(folder, { recursive: true })
  const good = join(folder, 'stereo-heights-octant.csv')
  writeFileSync(good, [head, ...rows, ''].join('\r\n'))
  const wrong = [...rows]
  wrong[1] = rows[1]!.replace(/[^,]+$/, '"15,5"')
  wrong[2] = rows[2]!.replace(/[^,]+$/, '42')
  wrong[3] = rows[3]!.replace(/^\d+/, '9999')
  wrong[5] = rows[5]!.replace(/[^,]+$/, '1O')
  writeFileSync(join(folder, 'stereo-heights-with-mistakes.csv'), [head, ...wrong, rows[0], ''].join('\r\n'))
  writeLateChanges(db, folder)
  return good
}

/** Whom the records office knows, in its own file: one of this year's it knows by no number, and one has withdrawn. */
export function writeRegister(db: Db, folder: string): void {
  const courses = db.prepare('SELECT id, boundaries FROM course').all() as { id: string; boundaries: string }[]
  for (const { id, boundaries } of courses) {
    const numbers = db.prepare('SELECT external_id AS number FROM student WHERE course_id = ? ORDER BY candidate').all(id) as {
      number: string | null
    }[]
    const students = Object.fromEntries(numbers.flatMap((s) => (s.number === null ? [] : [[s.number, 'enrolled']])))
    if (id === THIS_YEAR.id) {
      const [unknown, withdrawn] = [numbers[20]!.number!, numbers[41]!.number!]
      Reflect.deleteProperty(students, unknown)
      students[`${unknown}-0`] = 'enrolled'
      students[withdrawn] = 'withdrawn'
    }
    const grades = (JSON.parse(boundaries) as { grade: string }[]).map((b) => b.grade)
    mkdirSync(join(folder, id), { recursive: true })
    writeFileSync(join(folder, id, 'register.json'), JSON.stringify({ students, grades }, null, 1))
  }
}

/** What the records office sends in week 12: two moves, a changed name, somebody new, and a row to be mended. */
function writeLateChanges(db: Db, folder: string): void {
  const roll = db
    .prepare(
      `SELECT s.candidate, s.name, x.code, s.external_id AS id FROM student s JOIN enrolment e ON e.student_id = s.id JOIN section x ON x.id = e.section_id
       WHERE s.course_id = ? ORDER BY s.candidate LIMIT 12`,
    )
    .all(THIS_YEAR.id) as { candidate: string; name: string; code: string; id: string }[]
  const rows = roll.map((s) => [s.candidate, s.name, s.code, s.id])
  rows[1]![2] = rows[1]![2] === 'C' ? 'D' : 'C'
  rows[4]![2] = rows[4]![2] === 'A' ? 'H' : 'A'
  rows[6]![1] += '-Marr'
  rows.push(['', 'Orla Quimby', 'B', 'ext-late-1'], ['4999', '', 'F', 'ext-late-2'])
  const lines = [['Number', 'Student', 'Section', 'Id'], ...rows].map((r) => r.join(';'))
  writeFileSync(join(folder, 'roll-late-changes.csv'), [...lines, ''].join('\r\n'))
}
