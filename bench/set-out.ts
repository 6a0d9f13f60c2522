import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parse } from 'csv-parse/sync'
import { rollChanges } from '#core/roll'
import { readRoll } from '#core/exchange/read-roll'
import { applyRollChanges } from '../server/areas/roll/apply-changes'
import { rollQueries } from '../server/areas/roll/queries'
import { planLoader } from '../server/kernel/course/load-plan'
import { openDatabase, type Db } from '../server/kernel/db/open'
import { takeTurns } from './grade-course'
import { writing } from '../server/kernel/db/transactions'

const STUDENTS = 12_000
const SECTIONS = 400
const ASSESSMENTS = 60
const FROM = '2026-09-07'

const csv = [
  'candidate,name,section,external id',
  ...Array.from({ length: STUDENTS }, (_, i) => `${10_000 + i},Student Number ${i},S${i % SECTIONS},ext-${i}`),
].join('\r\n')
const bytes = new TextEncoder().encode(csv)

/** The first stop for 12,000 students, 400 sections and 60 assessments, beside the least that could be done. */
export async function benchSetOut(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'level-table-bench-'))
  const db = openDatabase(join(folder, 'level-table.db'))
  try {
    console.log(`\nSet out: ${STUDENTS} students, ${SECTIONS} sections, ${ASSESSMENTS} assessments`)
    await benchImport(db)
    benchViews(db)
  } finally {
    db.close()
    rmSync(folder, { recursive: true, force: true })
  }
}

function emptyCourse(db: Db, id: string): void {
  db.prepare(
    "INSERT INTO course (id, code, title, term, first_day, last_day, policy, boundaries) VALUES (?, ?, 'x', 'y', ?, '2026-12-18', ?, '[]')",
  ).run(
    id,
    id,
    FROM,
    JSON.stringify({ missing: { kind: 'zero' }, absent: { kind: 'zero' }, late: { kind: 'none' }, rounding: null, above100: 'cap' }),
  )
}

async function benchImport(db: Db): Promise<void> {
  const roll = rollQueries(db)
  const times: number[] = []
  for (let round = 0; round < 5; round++) {
    const id = `course-${round}`
    emptyCourse(db, id)
    const start = performance.now()
    const changes = rollChanges(roll.roll(id), await readRoll(bytes), FROM)
    writing(db, () => applyRollChanges(roll, id, changes))
    times.push(performance.now() - start)
  }
  const { read } = takeTurns({ read: () => parse(csv) })
  const median = times.sort((a, b) => a - b)[2]!
  say('bringing the roll in, durable', median, 'reading the same CSV alone', read!)
}

function benchViews(db: Db): void {
  const id = 'course-0'
  db.prepare("INSERT INTO component (id, course_id, title, weight, combine, position) VALUES ('c', ?, 'c', 100, 'byWorth', 0)").run(id)
  const assessment = db.prepare(
    "INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, worth, position) VALUES (?, ?, 'c', ?, 'direct', 20, 20, ?)",
  )
  const place = db.prepare(
    "INSERT INTO placement (assessment_id, section_id, due) SELECT ?, id, '2026-10-12' FROM section WHERE course_id = ?",
  )
  writing(db, () => {
    for (let i = 0; i < ASSESSMENTS; i++) {
      assessment.run(`a${i}`, id, `Assessment ${i}`, i)
      place.run(`a${i}`, id)
    }
  })
  const roll = rollQueries(db)
  const bare = {
    roll: db.prepare(
      'SELECT s.id, s.name, s.candidate, e.section_id, e.from_day FROM student s JOIN enrolment e ON e.student_id = s.id WHERE s.course_id = ?',
    ),
    plan: db.prepare('SELECT p.* FROM placement p JOIN assessment a ON a.id = p.assessment_id WHERE a.course_id = ?'),
  }
  const t = takeTurns({
    roll: () => JSON.stringify(roll.roll(id)),
    bareRoll: () => bare.roll.all(id),
    plan: () => JSON.stringify(planLoader(db).load(id).plan),
    barePlan: () => bare.plan.all(id),
  })
  say('the roll as the page gets it', t.roll!, 'one bare scan of students and enrolments', t.bareRoll!)
  say('plan and placements as the page gets them', t.plan!, 'one bare scan of the placements', t.barePlan!)
}

const say = (what: string, ms: number, beside: string, floor: number) =>
  console.log(`  ${what}: ${ms.toFixed(0)} ms, ${(ms / floor).toFixed(1)} × ${beside} (${floor.toFixed(0)} ms)`)
