import { addDays, formatISO, parseISO } from 'date-fns'
import { hashSync } from '@node-rs/argon2'
import type { Policy } from '#core/grades'
import { STAND_IN, type SignOn } from '#contract'
import type { Db } from '../server/kernel/db/open'
import { ADMIN, EXTERNAL, FAMILY, GIVEN, LEAD, MARKERS, SECTIONS } from './names'
import type { Random } from './random'
import { FIELD_BOOK_SCHEME, MAP_RUBRIC, VIVA_SCALE, type PlanComponent, type PlanItem } from './standards'

/** What everybody of the demo signs in with; the stand-in sign-on says it. */
export const PASSPHRASE = 'level-with-me'

export interface Size {
  students: number
  sections: number
  markers: number
  /** Assessments of the course of this year; more than the story has are further practicals. */
  assessments?: number
  seed: number
}

export interface DemoStudent {
  id: string
  name: string
  section: number
  /** General level in percent, before anything else. */
  level: number
}

export interface CourseSpec {
  id: string
  code: string
  title: string
  term: string
  firstDay: string
  lastDay: string
  plan: PlanComponent[]
  boundaries: { grade: string; from: number }[]
  /** First candidate number. */
  candidates: number
}

export const POLICY: Policy = {
  missing: { kind: 'zero' },
  absent: { kind: 'pending' },
  late: { kind: 'perDay', percent: 5, maxDays: 5 },
  rounding: { decimals: 1 },
  above100: 'cap',
}

export const markerId = (i: number): string => `marker-${i + 1}`
export const LEAD_ID = 'lead'
export const EXTERNAL_ID = 'external'

/** The stand-in, as what an institute would have. */
const SIGN_ON: SignOn = {
  passphrases: true,
  provider: { name: 'Orrin Vale account', issuer: STAND_IN, clientId: 'level-table', claim: 'preferred_username', makesPeople: true },
}

const DOES = ['teaches and marks', 'reads and marks']

/** People, their sign-ins, and the library that the courses share. */
export function writeDepartment(db: Db, size: Size): void {
  const hash = hashSync(PASSPHRASE)
  const person = db.prepare('INSERT INTO person (id, name, sign_in, passphrase_hash, does) VALUES (?, ?, ?, ?, ?)')
  const add = (id: string, name: string, does: string) => person.run(id, name, signInOf(name), hash, does)
  db.prepare("INSERT INTO setting (key, value) VALUES ('demo passphrase', ?)").run(PASSPHRASE)
  add(LEAD_ID, LEAD, 'leads the assessment of the course')
  add(EXTERNAL_ID, EXTERNAL, 'external moderator: reads all, changes nothing')
  for (let i = 0; i < size.markers; i++) {
    const name = MARKERS[i] ?? `${GIVEN[(i * 7) % GIVEN.length]} ${FAMILY[(i * 11) % FAMILY.length]} ${i + 1}`
    const section = SECTIONS[i]
    add(markerId(i), name, i < MARKERS.length ? (section ? `${DOES[0]} ${section}` : DOES[1]!) : '')
  }
  add('admin', ADMIN, 'runs the installation: people and courses, no marks')
  db.prepare("UPDATE person SET admin = 1 WHERE id = 'admin'").run()
  db.prepare("INSERT INTO setting (key, value) VALUES ('department', 'Department of Cartography and Field Survey')").run()
  db.prepare("INSERT INTO setting (key, value) VALUES ('sign-on', ?)").run(JSON.stringify(SIGN_ON))
  const standard = db.prepare('INSERT INTO standard (id, kind, title, owner_id, body) VALUES (?, ?, ?, ?, ?)')
  standard.run('rubric-map', 'rubric', 'A map for a reader', LEAD_ID, JSON.stringify(MAP_RUBRIC))
  standard.run('scale-viva', 'scale', 'Spoken defence, five labels', LEAD_ID, JSON.stringify(VIVA_SCALE))
  standard.run('scheme-field-book', 'scheme', 'Field book', markerId(0), JSON.stringify(FIELD_BOOK_SCHEME))
}

const signInOf = (name: string) =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '.')

export function sectionName(i: number): string {
  const round = Math.floor(i / SECTIONS.length)
  return SECTIONS[i % SECTIONS.length]! + (round === 0 ? '' : ` ${round + 1}`)
}

/** A course with its sections, students, plan, placements and a script for every placement of a student. */
export function writeCourse(db: Db, spec: CourseSpec, size: Size, rng: Random): DemoStudent[] {
  db.prepare('INSERT INTO course (id, code, title, term, first_day, last_day, policy, boundaries) VALUES (?, ?, ?, ?, ?, ?, ?, ?)').run(
    spec.id,
    spec.code,
    spec.title,
    spec.term,
    spec.firstDay,
    spec.lastDay,
    JSON.stringify(POLICY),
    JSON.stringify(spec.boundaries),
  )
  const role = db.prepare('INSERT INTO course_role (course_id, person_id, role) VALUES (?, ?, ?)')
  role.run(spec.id, LEAD_ID, 'lead')
  role.run(spec.id, EXTERNAL_ID, 'external')
  for (let i = 0; i < size.markers; i++) role.run(spec.id, markerId(i), 'marker')

  const section = db.prepare(
    'INSERT INTO section (id, course_id, code, name, teacher_id, weekdays, first_day, position) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
  for (let i = 0; i < size.sections; i++) {
    const weekdays = [1 + (i % 4), 1 + ((i + 2) % 4)].sort()
    const firstDay = formatISO(addDays(parseISO(spec.firstDay), weekdays[0]! - 1), { representation: 'date' })
    const name = sectionName(i)
    section.run(
      sectionId(spec, i),
      spec.id,
      String.fromCharCode(65 + (i % 26)) + (i >= 26 ? Math.floor(i / 26) : ''),
      name,
      markerId(i % size.markers),
      JSON.stringify(weekdays),
      firstDay,
      i,
    )
  }

  const students = drawStudents(spec, size, rng)
  const student = db.prepare('INSERT INTO student (id, course_id, name, candidate, external_id) VALUES (?, ?, ?, ?, ?)')
  const enrol = db.prepare('INSERT INTO enrolment (student_id, section_id, from_day) VALUES (?, ?, ?)')
  // Candidate numbers in an order of their own, so that they tell nothing about name or section.
  const numbers = students.map((_, i) => spec.candidates + i)
  for (let i = numbers.length - 1; i > 0; i--) {
    const j = rng.below(i + 1)
    ;[numbers[i], numbers[j]] = [numbers[j]!, numbers[i]!]
  }
  students.forEach((s, i) => {
    student.run(s.id, spec.id, s.name, String(numbers[i]), `ext-${numbers[i]}`)
    enrol.run(s.id, sectionId(spec, s.section), spec.firstDay)
  })
  writePlan(db, spec, size, students)
  return students
}

export const sectionId = (spec: CourseSpec, i: number): string => `${spec.id}-section-${i + 1}`
export const itemId = (spec: CourseSpec, item: string): string => `${spec.id}-${item}`
export const scriptId = (spec: CourseSpec, item: string, studentId: string): string => `${spec.id}-${item}:${studentId}`

function drawStudents(spec: CourseSpec, size: Size, rng: Random): DemoStudent[] {
  const taken = new Set<string>()
  const students = Array.from({ length: size.students }, (_, i): DemoStudent => {
    let name = ''
    for (let tries = 0; name === '' || (taken.has(name) && tries < 20); tries++) name = `${rng.pick(GIVEN)} ${rng.pick(FAMILY)}`
    taken.add(name)
    return { id: `${spec.id}-student-${i + 1}`, name, section: i % size.sections, level: rng.normal(64, 9.5) }
  })
  // By chance alone sections would differ; what differs in the demo is what the story says.
  for (let section = 0; section < size.sections; section++) {
    const own = students.filter((s) => s.section === section)
    const off = own.reduce((sum, s) => sum + s.level, 0) / own.length - 64
    for (const s of own) s.level -= off
  }
  return students
}

function writePlan(db: Db, spec: CourseSpec, size: Size, students: DemoStudent[]): void {
  const component = db.prepare(
    'INSERT INTO component (id, course_id, title, weight, combine, drop_lowest, bonus, position) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
  const assessment = db.prepare(
    `INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, worth, bonus, pass_mark, tolerance, readings_wanted, step, blind, standard_id, position)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const placement = db.prepare('INSERT INTO placement (assessment_id, section_id, due) VALUES (?, ?, ?)')
  const script = db.prepare('INSERT INTO script (id, student_id, assessment_id) VALUES (?, ?, ?)')
  spec.plan.forEach((c, at) => {
    component.run(itemId(spec, `c-${c.id}`), spec.id, c.title, c.weight, 'byWorth', c.dropLowest, Number(c.bonus), at)
    c.items.forEach((item, i) => {
      assessment.run(
        itemId(spec, item.id),
        spec.id,
        itemId(spec, `c-${c.id}`),
        item.title,
        item.marking,
        item.outOf,
        item.worth,
        Number(item.bonus ?? false),
        item.passMark,
        item.tolerance ?? 0,
        item.readings ?? 1,
        item.step ?? null,
        Number(item.blind ?? false),
        item.standard ?? null,
        i,
      )
      for (let s = 0; s < size.sections; s++) placement.run(itemId(spec, item.id), sectionId(spec, s), dueDay(spec, item, s))
      for (const s of students) script.run(scriptId(spec, item.id, s.id), s.id, itemId(spec, item.id))
    })
  })
}

/** A meeting day of the section in that week of the term. */
function dueDay(spec: CourseSpec, { week, secondMeeting }: Pick<PlanItem, 'week' | 'secondMeeting'>, section: number): string {
  const day = (section + (secondMeeting ? 2 : 0)) % 4
  return formatISO(addDays(parseISO(spec.firstDay), (week - 1) * 7 + day), { representation: 'date' })
}
