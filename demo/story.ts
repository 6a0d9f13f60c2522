import { randomUUID } from 'node:crypto'
import { gradeCourse, type MarkRow } from '#core/grades'
import { readingQueue, settleBy, standingMarks, toCourse, workingsOf } from '#core/trial'
import type { Change, Release } from '#contract'
import { contentHash, gradesIssued, issueContent } from '../server/kernel/course/issue-content'
import { tableLoader } from '../server/kernel/course/load-table'
import { decisions } from '../server/kernel/course/decisions'
import { betweenTwo } from '../server/areas/marking/between'
import { noteQueries } from '../server/areas/notes/queries'
import { summarise } from '../server/areas/trials/summarise'
import type { AssessmentRow } from '../server/kernel/course/rows'
import type { Db } from '../server/kernel/db/open'
import { EXTERNAL_ID, itemId, LEAD_ID, scriptId, sectionId, writeCourse, type CourseSpec, type DemoStudent, type Size } from './department'
import { marksWriter, type Happenings } from './marking'
import { half, type Random } from './random'
import { BOUNDARIES, FIELD_MAPPING, practical, READING_THE_GROUND, type PlanItem } from './standards'

const DIOPTRA = 2
const OCTANT = 5
const SEXTANT = 6
/** How many scripts' readings lie over tolerance, and how far apart. */
const GAPS = [19, 17, 15, 14, 13, 12.5, 12, 11.5, 11.5]

export const THIS_YEAR: CourseSpec = {
  id: 'cfs214-2026',
  code: 'CFS 214',
  title: 'Field Mapping',
  term: 'autumn 2026',
  firstDay: '2026-09-07',
  lastDay: '2026-12-18',
  plan: FIELD_MAPPING,
  boundaries: BOUNDARIES,
  candidates: 3871,
}

export const SECOND_COURSE: CourseSpec = {
  ...THIS_YEAR,
  id: 'cfs118-2026',
  code: 'CFS 118',
  title: 'Reading the Ground',
  plan: READING_THE_GROUND,
  candidates: 6120,
}

export const LAST_YEAR: CourseSpec = {
  ...THIS_YEAR,
  id: 'cfs214-2025',
  plan: planThen(),
  term: 'autumn 2025',
  firstDay: '2025-09-08',
  lastDay: '2025-12-19',
  candidates: 2210,
}

/** Last year one practical was called otherwise, and one was not set yet. */
function planThen(): CourseSpec['plan'] {
  const then = (item: PlanItem): PlanItem[] =>
    item.id === 'detail' ? [] : [item.id === 'stereo' ? { ...item, title: 'Heights from pairs' } : item]
  return FIELD_MAPPING.map((c) => ({ ...c, items: c.items.flatMap(then) }))
}

const items = (spec: CourseSpec): PlanItem[] => spec.plan.flatMap((c) => c.items)

/** A course with further practicals, spread over the term, up to a number of assessments. */
function withFurther(spec: CourseSpec, assessments: number): CourseSpec {
  const more = Array.from({ length: Math.max(0, assessments - items(spec).length) }, (_, i) =>
    practical(`further-${i + 1}`, `Further practical ${i + 1}`, 20, 2 + (i % 14), 0),
  )
  return { ...spec, plan: spec.plan.map((c) => (c.id === 'practicals' ? { ...c, items: [...c.items, ...more] } : c)) }
}

/** CFS 214 in week 14: marking almost done, work waiting at every stop. */
export function writeThisYear(db: Db, size: Size, rng: Random): void {
  const spec = withFurther(THIS_YEAR, size.assessments ?? 0)
  const students = writeCourse(db, spec, size, rng)
  for (const s of students) if (s.section % 8 === SEXTANT) s.level += 7 // truly stronger
  const others = students.filter((s) => s.section % 8 !== OCTANT)
  const apart = Object.fromEntries(GAPS.map((gap, i) => [others[7 + i * Math.floor(others.length / 10)]!.id, gap]))
  const story: Happenings = { easier: { 'paper-1': { [DIOPTRA]: 14 } }, apart, waiting: [{ item: 'stereo', section: OCTANT }] }
  markCourse(db, spec, students, size, rng, story)
  setMishaps(db, spec, students, Object.keys(apart))
  shareNames(db, students)
  moveDates(db, spec)
  setReleases(db, spec)
  letIn(db, spec, students[4]!.id)

  const tables = tableLoader(db)
  const settled = (assessment: string, but: number | null): Change[] => {
    const w = workingsOf(tables.load(spec.id))
    const sectionOf = new Map(students.map((s) => [s.id, s.section]))
    const tolerance = items(spec).find((i) => i.id === assessment)!.tolerance!
    const within = readingQueue(w, { [itemId(spec, assessment)]: tolerance }, standingMarks(w)).within
    const own = within.filter(
      (cell) => w.cells.assessmentId(cell) === itemId(spec, assessment) && sectionOf.get(w.cells.studentId(cell))! % 8 !== but,
    )
    return settleBy(w, own, { kind: 'mean' }, 0.5)
  }
  const record = decisions(db)
  const decide = (changes: Change[], reason: string) =>
    record.add({
      id: randomUUID(),
      courseId: spec.id,
      kind: 'reconcile',
      summary: summarise(changes, tables.load(spec.id), workingsOf(tables.load(spec.id))),
      changes,
      effect: null,
      reason,
      by: LEAD_ID,
    })
  const viva = settled('viva-1', null)
  decide(viva, 'Panel of three, all within one label of each other')
  const maps = settled('map', OCTANT)
  decide(maps, 'Within tolerance; Octant’s second readings came in after this')
  db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(spec.id)
  putOnBoundaries(db, spec)
  agreeBetween(db, spec, Object.keys(apart))
  noteQueries(db).leave({
    id: 'note-1',
    courseId: spec.id,
    about: { kind: 'section', id: sectionId(spec, DIOPTRA), assessmentId: itemId(spec, 'paper-1') },
    words: 'Dioptra stands eleven marks above the others in the paper, and level in all else. Was it the same paper?',
    by: EXTERNAL_ID,
  })
}

/** Of the scripts over tolerance the readers of one agreed on a mark between them; on another one proposed, and waits. */
function agreeBetween(db: Db, spec: CourseSpec, studentIds: readonly string[]): void {
  const id = itemId(spec, 'map')
  db.prepare('UPDATE assessment SET sees = ? WHERE id = ?').run(JSON.stringify({ between: true }), id)
  const row = db.prepare<[string], AssessmentRow>('SELECT * FROM assessment WHERE id = ?').get(id)!
  const readers = db.prepare<[string], { id: string; mark: number }>(
    "SELECT marker_id AS id, mark FROM reading WHERE script_id = ? AND state = 'handed in' ORDER BY handed_in_at",
  )
  const between = betweenTwo(db)
  const propose = (studentId: string, reason: string) => {
    const script = scriptId(spec, 'map', studentId)
    const [first, second] = readers.all(script)
    between.propose(row, script, first!.id, { mark: half((first!.mark + second!.mark) / 2), reason })
    return () => between.answer(row, script, second!.id, { agrees: true, words: '' })
  }
  propose(studentIds[5]!, 'The crag is drawn, and in the wrong place: half of what it is worth')()
  propose(studentIds[6]!, 'The legend was on the back of the sheet')
}

/** The second course, under way; a weight in its plan was never typed in. */
export function writeSecondCourse(db: Db, size: Size, rng: Random): void {
  const students = writeCourse(db, SECOND_COURSE, size, rng)
  const book = marksWriter(db, SECOND_COURSE, size, rng)
  const [walk, valley, sketch] = items(SECOND_COURSE) as [PlanItem, PlanItem, PlanItem]
  students.forEach((s, i) => {
    book.enter(walk, s, s.level + walk.ease + rng.normal(0, 6))
    if (s.section < 2) book.enter(valley, s, s.level + valley.ease + rng.normal(0, 6))
    if (i % 3 !== 0) book.readOnce(sketch, s, s.level)
  })
}

/** Last year's course, all marks in, confirmed and signed twice. */
export function writeLastYear(db: Db, size: Size, rng: Random): void {
  const spec = LAST_YEAR
  const students = writeCourse(db, spec, size, rng)
  const book = marksWriter(db, spec, size, rng)
  const set = new Set(items(spec).map((item) => item.id))
  // What is drawn for what was not set is dropped, so that this year stays what it is.
  const ifSet = (item: PlanItem, write: () => void) => set.has(item.id) && write()
  for (const s of students)
    for (const item of items(THIS_YEAR)) {
      if (item.id === 'open-day-map') book.status(item, s, 'exempt')
      else if (rng.chance(0.01)) ifSet(item, () => book.status(item, s, 'missing'))
      else {
        const level = s.level + (item.id === 'traverse' ? 2 : item.ease) + 1 + rng.normal(0, 6)
        ifSet(item, () => book.enter(item, s, level))
      }
    }
  const content = issueContent(tableLoader(db).load(spec.id), 1)
  const hash = contentHash(content)
  db.prepare(
    'INSERT INTO issue (course_id, number, content, hash, made_at, signers, boundaries, counts) VALUES (?, 1, ?, ?, ?, ?, ?, ?)',
  ).run(
    spec.id,
    JSON.stringify(content),
    hash,
    '2026-01-09T10:12:00.000Z',
    '["lead","external"]',
    JSON.stringify(content.boundaries),
    JSON.stringify(gradesIssued(content)),
  )
  const sign = db.prepare('INSERT INTO signature (course_id, number, person_id, role, statement, at, hash) VALUES (?, 1, ?, ?, ?, ?, ?)')
  sign.run(spec.id, LEAD_ID, 'lead', 'Marks moderated across all eight sections', '2026-01-09T10:12:00.000Z', hash)
  sign.run(spec.id, EXTERNAL_ID, 'external', 'Standards are comparable with last year’s', '2026-01-12T15:40:00.000Z', hash)
}

function markCourse(db: Db, spec: CourseSpec, students: DemoStudent[], size: Size, rng: Random, story: Happenings): void {
  const book = marksWriter(db, spec, size, rng)
  const waiting = (item: PlanItem, section: number) => story.waiting.some((w) => w.item === item.id && w.section === section % 8)
  for (const item of items(spec))
    students.forEach((s, i) => {
      const level = s.level + item.ease + (story.easier[item.id]?.[s.section % 8] ?? 0)
      if (item.id === 'map') book.readTwice(item, s, i, s.level + rng.normal(0, 4), story.apart[s.id])
      else if (item.id === 'viva-1') book.readByPanel(item, s, i, level + rng.normal(0, 5))
      else if (item.marking === 'scheme') book.readOnce(item, s, level + rng.normal(0, 5))
      else if (item.id === 'paper-1') {
        book.readOnce(item, s, level + rng.normal(0, 6))
        if (i % 10 === 4) {
          const { mark } = db.prepare('SELECT mark FROM reading WHERE script_id = ?').get(scriptId(spec, item.id, s.id)) as { mark: number }
          book.readAgain(item, s, mark, i)
        }
      } else if (item.id === 'open-day-map') {
        if (i % 10 === 2) book.enter(item, s, 78 + rng.normal(0, 9))
        else book.status(item, s, 'exempt')
      } else if (waiting(item, s.section)) return
      else if (item.id !== 'part-1' && rng.chance(0.014)) book.status(item, s, rng.pick(['missing', 'exempt', 'missing']))
      else book.enter(item, s, level + rng.normal(0, 7), item.id !== 'part-1' && rng.chance(0.02) ? 1 + rng.below(4) : 0)
    })
}

/** One held, some absent, missing or late where work is read. */
function setMishaps(db: Db, spec: CourseSpec, students: DemoStudent[], spared: string[]): void {
  const set = db.prepare('UPDATE script SET status = ?, days_late = ? WHERE id = ?')
  const others = students.filter((s) => !spared.includes(s.id))
  const at = (share: number) => others[Math.floor(others.length * share)]!.id
  set.run('held', 0, scriptId(spec, 'paper-1', at(0.31)))
  set.run('late', 2, scriptId(spec, 'map', at(0.12)))
  set.run('late', 1, scriptId(spec, 'map', at(0.47)))
  set.run('late', 6, scriptId(spec, 'map', at(0.83)))
  const gone = (item: string, student: string, status: string) => set.run(status, 0, scriptId(spec, item, student))
  gone('viva-1', at(0.22), 'absent')
  gone('viva-1', at(0.64), 'absent')
  gone('field-book-2', at(0.7), 'missing')
  gone('field-book-1', at(0.52), 'exempt')
}

/** Two pairs of students of one name: one pair in two sections, one pair in the same. */
function shareNames(db: Db, students: DemoStudent[]): void {
  const rename = db.prepare('UPDATE student SET name = (SELECT name FROM student WHERE id = ?) WHERE id = ?')
  const sections = Math.max(...students.map((s) => s.section)) + 1
  rename.run(students[10]!.id, students[11]!.id)
  rename.run(students[20]!.id, students[20 + sections]!.id)
}

/** One placement on a Sunday, one after the end of term. */
function moveDates(db: Db, spec: CourseSpec): void {
  const due = db.prepare('UPDATE placement SET due = ? WHERE assessment_id = ? AND section_id = ?')
  due.run('2026-11-01', itemId(spec, 'plane-table'), sectionId(spec, 3))
  due.run('2027-01-06', itemId(spec, 'viva-1'), sectionId(spec, 4))
}

/** Field books are released at once, practicals a week after they are due, the map project by hand; the rest when confirmed. */
function setReleases(db: Db, spec: CourseSpec): void {
  const set = db.prepare('UPDATE placement SET release = ? WHERE assessment_id = ?')
  const rules: Record<string, Release> = {
    scheme: { kind: 'at once' },
    direct: { kind: 'days', days: 7 },
    rubric: { kind: 'by hand', released: false },
  }
  for (const item of items(spec))
    if (rules[item.marking] && item.id !== 'paper-1') set.run(JSON.stringify(rules[item.marking]), itemId(spec, item.id))
}

/** One student who signs in, to see what a student sees. */
function letIn(db: Db, spec: CourseSpec, studentId: string): void {
  db.prepare(
    `INSERT INTO person (id, name, sign_in, passphrase_hash, does)
     SELECT 'student', s.name, 'student', p.passphrase_hash, 'student: sees own work once it is released' FROM student s, person p
     WHERE s.id = ? AND p.id = ?`,
  ).run(studentId, LEAD_ID)
  db.prepare("UPDATE student SET person_id = 'student' WHERE id = ?").run(studentId)
  db.prepare("INSERT INTO course_role (course_id, person_id, role) VALUES (?, 'student', 'student')").run(spec.id)
}

/** Brings two students exactly onto a boundary by half marks in their paper and practicals. */
function putOnBoundaries(db: Db, spec: CourseSpec): void {
  const tables = tableLoader(db)
  const table = tables.load(spec.id)
  const course = toCourse(workingsOf(table))
  const result = gradeCourse(course)
  const setReading = db.prepare('UPDATE reading SET mark = ? WHERE script_id = ?')
  const setEntered = db.prepare('UPDATE script SET entered = ? WHERE id = ?')
  const [paper, ...practicals] = ['paper-1', 'pacing', 'levelling', 'plane-table', 'detail'].map((i) => itemId(spec, i)) as [
    string,
    ...string[],
  ]
  for (const target of [70, 60]) {
    const near = result.students
      .filter((s) => s.final !== null && Math.abs(s.final - target) < 2.5)
      .filter((s) => course.marks.every((m) => m.studentId !== s.studentId || m.status === 'in' || m.status === 'exempt'))
      .sort((a, b) => Math.abs(a.final! - target) - Math.abs(b.final! - target))
    for (const s of near) {
      const own = course.marks.filter((m) => m.studentId === s.studentId)
      const found = halfMarksTo(target - s.final!, own, paper, practicals)
      const grade = (marks: MarkRow[]) =>
        gradeCourse({ ...course, students: course.students.filter((x) => x.id === s.studentId), marks }).students[0]!
      if (!found || Math.abs(grade(found).final! - target) > 1e-10) continue
      for (const m of found) {
        const id = `${m.assessmentId}:${m.studentId}`
        if (m.assessmentId === paper) setReading.run(m.mark, id)
        else setEntered.run(m.mark, id)
      }
      break
    }
  }
  db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(spec.id)
}

/** Points of the course percent that a half mark is worth: 15% of 80 marks; a fifth of 25% of each practical that counts. */
const HALF = { paper: (15 * 0.5) / 80, practical: [20, 30, 25, 40].map((outOf) => (25 * 0.5) / (5 * outOf)) }

/**
 * Half marks up or down in the paper and four practicals that together move the percent by `gap`; null where
 * none do. Takes it that the dropped practical is another one; the caller checks with the engine.
 */
function halfMarksTo(gap: number, own: MarkRow[], paper: string, practicals: string[]): MarkRow[] | null {
  const steps = Array.from({ length: 13 }, (_, i) => (i % 2 === 0 ? i / 2 : -(i + 1) / 2))
  const [w, x, y, z] = HALF.practical as [number, number, number, number]
  for (const a of steps)
    for (const b of steps)
      for (const c of steps)
        for (const d of steps)
          for (const e of steps)
            if (Math.abs(a * HALF.paper + b * w + c * x + d * y + e * z - gap) < 1e-9) {
              const by = new Map([paper, ...practicals].map((id, i) => [id, [a, b, c, d, e][i]! / 2]))
              return own.map((m) =>
                by.get(m.assessmentId) && m.mark !== null ? { ...m, mark: half(m.mark + by.get(m.assessmentId)!) } : m,
              )
            }
  return null
}
