import { z } from 'zod'
import { packedRows } from '#core/exchange/data-package'
import { FileError } from '#core/exchange/delimited'
import { criteriaOf } from '#core/scales'
import { standingMarks, standingOfStudent, workingsOf } from '#core/trial'
import { Assessment, type Plan } from '#contract'
import { planLoader } from '../../kernel/course/load-plan'
import { tableLoader } from '../../kernel/course/load-table'
import { dataPackage, type Field, type TableToPack } from '../../kernel/data-package'
import { now, type Db } from '../../kernel/db/open'
import { standardsOf } from '../../kernel/standards/judge'
import { libraryQueries } from '../../kernel/standards/queries'
import { entryParts } from '../../kernel/standards/taken-out'

type Assessed = Plan['assessments'][number]

/** What of an assessment travels, by its column. */
const FIELDS = {
  title: { name: 'title', type: 'string', required: true },
  marking: { name: 'marking', type: 'string', required: true },
  outOf: { name: 'out of', type: 'number', required: true },
  worth: { name: 'worth', type: 'number' },
  worthFollows: { name: 'worth follows out of', type: 'boolean', required: true },
  counts: { name: 'counts', type: 'boolean', required: true },
  bonus: { name: 'bonus', type: 'boolean', required: true },
  droppable: { name: 'droppable', type: 'boolean', required: true },
  passMark: { name: 'pass mark', type: 'number' },
  tolerance: { name: 'tolerance', type: 'number', required: true },
  readingsWanted: { name: 'readings wanted', type: 'integer', required: true },
  step: { name: 'step', type: 'number' },
  notes: { name: 'notes', type: 'string' },
} as const satisfies Partial<Record<keyof Assessed, Field>>

type Key = keyof typeof FIELDS
const KEYS = Object.keys(FIELDS) as Key[]
const COMPONENT: Field = { name: 'component', type: 'string', required: true }

/** An assessment as it comes in a package, and the component that it was in. */
export type PackedAssessment = Pick<Assessed, Key> & { component: string }
const Packed = Assessment.pick(Object.fromEntries(KEYS.map((k) => [k, true])) as Record<Key, true>).extend({ component: z.string() })

const text = (name: string): Field => ({ name, type: 'string' })
const number = (name: string): Field => ({ name, type: 'number' })

/**
 * An assessment as a data package of its own: what it is, what it is marked by, its marks and its readings. Students stand in it by their
 * candidate numbers alone. The table of marks has the columns that the mark sheet takes.
 * @throws FileError where there is no such assessment
 */
export function packedAssessment(db: Db, courseId: string, assessmentId: string): Uint8Array {
  const plans = planLoader(db)
  const { plan } = plans.load(courseId)
  const a = plan.assessments.find((x) => x.id === assessmentId)
  if (!a) throw new FileError('There is no such assessment.')
  const library = libraryQueries(db)
  const entry = a.standardId === null ? undefined : library.get(a.standardId)
  const [table, document] = entry ? entryParts(entry, library) : []
  const component = plan.components.find((c) => c.id === a.componentId)?.title ?? ''
  const { code, title, term } = plan.head
  return dataPackage(
    { name: `assessment-${a.id}`, title: `${a.title}, ${code} ${title}, ${term}`, created: now() },
    [
      { name: 'assessment', fields: [...KEYS.map((k) => FIELDS[k]), COMPONENT], rows: [[...KEYS.map((k) => a[k]), component]] },
      marksOf(db, courseId, a),
      ...readingsOf(db, a.id),
      ...(table ? [table] : []),
    ],
    document ? [document] : [],
  )
}

function marksOf(db: Db, courseId: string, a: Assessed): TableToPack {
  const table = tableLoader(db, planLoader(db)).load(courseId)
  const workings = workingsOf(table)
  const standing = standingMarks(workings)
  const sections = new Map(table.sections.map((s) => [s.id, s.name]))
  const remark = db.prepare<[string], string>('SELECT remark FROM script WHERE id = ?').pluck()
  return {
    name: 'marks',
    fields: [
      ...['candidate', 'section', 'assessment'].map(text),
      number('mark'),
      text('status'),
      { name: 'days late', type: 'integer' },
      number('counts as'),
      text('remark'),
    ],
    rows: table.students.flatMap((s) => {
      const m = standingOfStudent(workings, standing, s.id).find((x) => x.assessmentId === a.id)
      if (!m || (m.plain === null && m.status === 'in')) return []
      return [[s.candidate, sections.get(s.sectionId) ?? '', a.title, m.plain, m.status, m.daysLate, m.mark, remark.get(m.scriptId) ?? '']]
    }),
  }
}

interface ReadingRow {
  candidate: string
  marker: string
  mark: number
  at: string
  comment: string
  standardId: string | null
  picks: string
  words: string
  judgement: string | null
}

function readingsOf(db: Db, assessmentId: string): [TableToPack, TableToPack] {
  const standardOf = standardsOf(libraryQueries(db))
  const rows = db
    .prepare<[string], ReadingRow>(
      `SELECT t.candidate, p.name AS marker, coalesce(c.mark, r.mark) AS mark, r.handed_in_at AS at, r.comment, coalesce(c.judgement, r.judgement) AS judgement,
         coalesce(c.standard_id, r.standard_id) AS standardId, coalesce(c.picks, r.picks) AS picks, r.criterion_comments AS words
       FROM reading r JOIN script s ON s.id = r.script_id JOIN student t ON t.id = s.student_id JOIN person p ON p.id = r.marker_id
         LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version
       WHERE s.assessment_id = ? AND r.state = 'handed in' ORDER BY t.candidate, r.handed_in_at, r.rowid`,
    )
    .all(assessmentId)
  const titles = new Map<string | null, Map<string, string>>()
  const titlesOf = (id: string | null) => {
    const known = titles.get(id) ?? new Map(criteriaOf(standardOf(id)).map((c) => [c.id, c.title]))
    titles.set(id, known)
    return known
  }
  return [
    {
      name: 'readings',
      fields: [
        ...['candidate', 'marker'].map(text),
        number('mark'),
        text('judgement'),
        { name: 'handed in', type: 'datetime' },
        text('comment'),
      ],
      rows: rows.map((r) => [r.candidate, r.marker, r.mark, r.judgement, r.at, r.comment]),
    },
    {
      name: 'points',
      fields: [...['candidate', 'marker', 'criterion'].map(text), number('points'), text('words')],
      rows: rows.flatMap((r) => {
        const picks = JSON.parse(r.picks) as Record<string, number>
        const words = JSON.parse(r.words) as Record<string, string>
        return [...new Set([...Object.keys(picks), ...Object.keys(words)])].map((id) => [
          r.candidate,
          r.marker,
          titlesOf(r.standardId).get(id) ?? id,
          picks[id] ?? null,
          words[id] ?? '',
        ])
      }),
    },
  ]
}

const valueIn = (cell: string, { type }: Field): string | number | boolean | null => {
  if (type === 'string') return cell
  if (cell === '') return null
  return type === 'boolean' ? (cell === 'true' ? true : cell === 'false' ? false : cell) : Number(cell)
}

/**
 * What an assessment in an unpacked data package is, and how many marks and readings it has.
 * @throws FileError that says what is missing or cannot be
 */
export function readPackedAssessment(files: ReadonlyMap<string, Uint8Array>): {
  assessment: PackedAssessment
  marks: number
  readings: number
} {
  const [row] = packedRows(files, 'assessment')
  if (!row) throw new FileError('data/assessment.csv has no row.')
  const given = Object.fromEntries(KEYS.map((k) => [k, valueIn(row[FIELDS[k].name] ?? '', FIELDS[k])]))
  const read = Packed.safeParse({ ...given, component: row[COMPONENT.name] ?? '' })
  if (!read.success) {
    const [{ path, message }] = read.error.issues as [z.core.$ZodIssue]
    const column = FIELDS[path[0] as Key]?.name ?? String(path[0])
    throw new FileError(`data/assessment.csv: “${(row[column] ?? '').slice(0, 60)}” cannot be its ${column} (${message}).`)
  }
  return { assessment: read.data, marks: packedRows(files, 'marks').length, readings: packedRows(files, 'readings').length }
}
