import { withinTolerance } from '#core/agree'
import { STATUSES, type Status } from '#core/grades'
import { applyingExceptions } from '#core/roll'
import { withStatus } from '#core/marking'
import { plainMark } from '#core/trial'
import { sightOf } from '#core/roles'
import {
  blankCells,
  putReadings,
  type Cell,
  type CellRefusal,
  type CellWrite,
  type Role,
  type ScaleBody,
  type Sheet,
  type SheetByCell,
  type SheetSince,
} from '#contract'
import type { CellKey } from '../../kernel/course/latest-cells'
import { now, type Db } from '../../kernel/db/open'
import { namesFor } from '../../kernel/access/names'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { inTurns } from '../../kernel/in-turns'
import { appliesTo } from '../../kernel/course/applies-to'
import { gateFor } from '../../kernel/standards/exemplars'
import { readersOf, readNotTyped } from './readers'
import { sheetQueries, type ScriptRow } from './queries'

type WholeTable = ReturnType<TableLoader['load']>
type Table = Omit<WholeTable, 'head'>

/** What is done or not done is typed in these words as well. */
const DONE_OR_NOT: ScaleBody['labels'] = [
  { label: 'not done', percent: 0, threshold: 0 },
  { label: 'done', percent: 100, threshold: 50 },
]

/** How many scripts are looked at before others are answered. */
const A_TURN = 20_000

/** What holds a script back or takes it out is a decision about a student, not a mark. */
const isGuarded = (status: Status): boolean => status === 'held' || status === 'exempt'

const sameValue = (a: Pick<Cell, 'mark' | 'status' | 'daysLate'>, b: Pick<CellWrite, 'mark' | 'status' | 'daysLate'>) =>
  a.mark === b.mark && a.status === b.status && a.daysLate === b.daysLate

/** The mark sheet: what one may see of it, and how cells are written. */
export function sheets(db: Db, tables: TableLoader, plans: PlanLoader) {
  const masked = namesFor(db)
  const { followed, taught, script, student, staysOf, insert, update, keep, lastBy, readBlind, scale } = sheetQueries(db)
  /** Assessments that are marked by where students stand, with the outcome. */
  const followedIn = (courseId: string) => new Map(followed.all(courseId).map((f) => [f.assessmentId, f.outcome]))
  const gateOf = gateFor(db)
  const readers = readersOf(db)
  const labelsOf = (id: string) => {
    const row = scale.get(id)
    return row ? (JSON.parse(row.body) as ScaleBody).labels : null
  }

  /** The sheet as somebody may see it. */
  const sheetFor = async (courseId: string, personId: string, role: Role): Promise<SheetByCell> =>
    inTurns(putTogether(courseId, await tables.loadInTurns(courseId), personId, role))

  /** Stops after some thousand scripts. What is written meanwhile may be in it or not: it is of the version at its beginning, after which all of that comes. */
  function* putTogether(courseId: string, table: WholeTable, personId: string, role: Role): Generator<void, SheetByCell> {
    const sight = sightOf(role)
    const { version } = table
    const own = sight.students === 'all' ? null : new Set(taught.all(courseId, personId).map((s) => s.id))
    const seen = (sectionId: string) => !own || own.has(sectionId)
    const unseen = sight.readings === 'all' ? new Set<string>() : new Set(readBlind.all(courseId).map((a) => a.id))
    const hidden = table.assessments.map((a) => unseen.has(a.id))
    const students = masked(
      courseId,
      role,
      table.students.filter((s) => seen(s.sectionId)),
    )
    const studentAt = new Map(students.map((s, i) => [s.id, i]))
    const { scripts } = table
    const readings = readingsOf(table)
    const plain = plainIn(table)
    const all = sight.readings === 'all'
    const over: Sheet['overTolerance'] = []
    yield
    // Places in the table's list, which has everybody, to places in the list that is sent.
    const shownAt = table.students.map((s) => studentAt.get(s.id) ?? -1)
    const outcomeOf = followedIn(courseId)
    const width = table.assessments.length
    const cells = blankCells(students.length * width)
    for (let i = 0; i < scripts.id.length; i++) {
      if (i % A_TURN === 0) yield
      const student = shownAt[scripts.student[i]!]!
      if (student < 0) continue
      const assessment = scripts.assessment[i]!
      const at = student * width + assessment
      cells.mark[at] = scripts.entered[i] ?? NaN
      cells.status[at] = scripts.status[i]!
      cells.daysLate[at] = scripts.daysLate[i]!
      cells.version[at] = scripts.version[i]!
      const marks = readings(i)
      // That somebody has read blind, told beside a name, would tell whose script it was.
      if (marks.length === 0 || hidden[assessment]) continue
      putReadings(cells, at, toldOfReadings(role, marks.length, all ? plain(i, marks) : null))
      if (all && isApart(table, i, marks)) over.push({ studentId: students[student]!.id, assessmentId: table.assessments[assessment]!.id })
    }
    yield
    const exceptions = [...applyingExceptions(table)].flatMap(([id, own]) =>
      studentAt.has(id) ? [[id, Object.fromEntries(own)] as const] : [],
    )
    yield
    return {
      version,
      sections: table.sections.filter((s) => seen(s.id)),
      students,
      assessments: table.assessments.map(({ id, title, outOf, marking, passMark, componentId, standardId, bonus }) => ({
        id,
        title,
        outOf,
        marking,
        passMark,
        componentId,
        bonus,
        blind: unseen.has(id),
        byStanding: outcomeOf.get(id) ?? null,
        labels: marking === 'completion' ? DONE_OR_NOT : marking === 'judgement' && standardId !== null ? labelsOf(standardId) : null,
      })),
      term: { firstDay: table.head.firstDay, lastDay: table.head.lastDay },
      placements: table.placements.filter((p) => seen(p.sectionId)),
      overTolerance: over,
      exceptions: Object.fromEntries(exceptions),
      cells,
      writable: sight.types !== 'none' && table.head.confirmedIssue === null,
    }
  }

  /** Some cells as they are now; those of students whom one does not see are left out. */
  function cellsNow(courseId: string, keys: readonly CellKey[], personId: string, role: Role): NonNullable<SheetSince['cells']> {
    const sight = sightOf(role)
    const table = tables.load(courseId)
    const own = sight.students === 'all' ? null : new Set(taught.all(courseId, personId).map((s) => s.id))
    const unseen = sight.readings === 'all' ? new Set<string>() : new Set(readBlind.all(courseId).map((a) => a.id))
    const found = keys.flatMap((key) => {
      if (unseen.has(key.assessmentId)) return []
      const at = tables.placeOf(courseId, key)
      return at < 0 || (own && !own.has(table.students[table.scripts.student[at]!]!.sectionId)) ? [] : [{ key, at }]
    })
    // Asked for after every write by everybody who has the sheet open: of all readings only theirs are looked at closer.
    const marks = new Map(found.map(({ at }) => [at, [] as number[]]))
    table.readings.script.forEach((at, i) => marks.get(at)?.push(table.readings.mark[i]!))
    const plain = plainIn(table)
    const all = sight.readings === 'all'
    const { status, daysLate, entered, version } = table.scripts
    return found.map(({ key, at }) => {
      const own = marks.get(at)!
      return {
        ...key,
        status: STATUSES[status[at]!]!,
        daysLate: daysLate[at]!,
        mark: entered[at]!,
        fromReadings: toldOfReadings(role, own.length, all ? plain(at, own) : null),
        version: version[at]!,
        overTolerance: all && isApart(table, at, own),
      }
    })
  }

  /**
   * Writes what can be written, inside the caller's transaction; refuses the rest cell by cell.
   * @param following whether it is where students stand that is written down
   */
  function write(
    courseId: string,
    cells: CellWrite[],
    personId: string,
    role: Role,
    following = false,
  ): { saved: Cell[]; refused: CellRefusal[] } {
    const sight = sightOf(role)
    // The plan and the students in hand are all it takes: a save must not wait for a department's marks to be read.
    const { plan } = plans.load(courseId)
    const assessments = new Map(plan.assessments.map((a) => [a.id, a]))
    const students = new Map(cells.map((c) => [c.studentId, student.get(c.studentId, courseId)]))
    const applies = appliesTo(plan, (id) => staysOf.all(id))
    const own = sight.students === 'all' ? null : new Set(taught.all(courseId, personId).map((s) => s.id))
    const outcomeOf = following ? new Map<string, string>() : followedIn(courseId)
    const saved: Cell[] = []
    const refused: CellRefusal[] = []
    for (const cell of cells) {
      const whose = students.get(cell.studentId)
      const assessment = assessments.get(cell.assessmentId)
      const row = whose && assessment && script.get(whose.id, assessment.id)
      const current = row ? cellOf(cell, row) : null
      const remarked = cell.remark !== undefined && cell.remark !== (row?.remark ?? '')
      // One that stands may be taken away wherever it stands.
      const writesRemark = remarked && cell.remark !== ''
      const retyped = writesRemark || (cell.mark !== null && cell.mark !== (row?.entered ?? null))
      const readBy = retyped && assessment ? readers.of(assessment.id, cell.studentId) : []
      const refuse = (kind: CellRefusal['kind'], message: string) =>
        refused.push({
          studentId: cell.studentId,
          assessmentId: cell.assessmentId,
          kind,
          message,
          current: kind === 'not yours' ? null : current,
        })
      if (!whose || !assessment) refuse('unknown', 'There is no such student or assessment in this course.')
      else if (own && !own.has(whose.sectionId)) refuse('not yours', 'This student is not in a section of yours.')
      else if (!applies(whose, assessment.id)) refuse('not placed', `${assessment.title} is not set for this student.`)
      else if (sight.types !== 'all' && retyped && gateOf(assessment.id, personId).gate === 'held')
        refuse('held', heldWords(assessment.title, gateOf(assessment.id, personId).unread))
      else if (retyped && outcomeOf.has(assessment.id))
        refuse(
          'readings',
          `${assessment.title} is marked by where students stand on “${outcomeOf.get(assessment.id)}”: it follows their results.`,
        )
      // Sent again because the answer was lost: it stands there already.
      else if (current && current.version !== cell.version && sameValue(current, cell) && !remarked) saved.push(current)
      else if ((row?.version ?? 0) !== cell.version) refuse('stale', 'Somebody changed this cell meanwhile.')
      else if (sight.types !== 'all' && row && isGuarded(row.status) && !sameValue(cellOf(cell, row), cell) && setByOther(row, personId))
        refuse('set by lead', `It is ${row.status}, as the lead set it: ask for that to be lifted.`)
      else if (sight.types !== 'all' && isGuarded(cell.status) && cell.status !== row?.status && readByOthers(cell, personId))
        refuse('set by lead', `Others read this script: the lead sets it to ${cell.status}.`)
      // Whether it is read already is not told to a marker: they may have read it blind.
      else if (readBy.length > 0 || (row && row.readings > 0 && (writesRemark || cell.mark !== row.entered)))
        refuse(
          'readings',
          row && row.readings > 0 && sight.readings === 'all'
            ? `${assessment.title} is marked by readings: settle it at Reconcile.`
            : readNotTyped(readBy, personId, sight.readings === 'all'),
        )
      else if (cell.mark !== null && cell.mark > assessment.outOf)
        refuse('range', `${cell.mark} is over the maximum of ${assessment.outOf}.`)
      else if (cell.mark !== null && cell.mark < 0 && !assessment.bonus)
        refuse('range', `${cell.mark} is below 0, which only a bonus may be.`)
      else if (cell.daysLate > 0 && cell.status !== 'late') refuse('late', 'Only late work has days late.')
      else saved.push(save(cell, row, personId))
    }
    return { saved, refused }
  }

  /** Whether somebody else than this marker put the cell as it is. */
  const setByOther = (row: ScriptRow, personId: string): boolean => (lastBy.get(row.id)?.by ?? '') !== personId
  const readByOthers = (cell: CellWrite, personId: string): boolean =>
    readers.of(cell.assessmentId, cell.studentId).some((r) => r.id !== personId)

  function save(cell: CellWrite, row: ScriptRow | undefined, personId: string): Cell {
    // What was typed before stays in its history.
    const entered = withStatus(cell, cell.status).mark
    const id = row?.id ?? `${cell.assessmentId}:${cell.studentId}`
    const remark = cell.remark ?? row?.remark ?? ''
    if (row) update.run(cell.status, cell.daysLate, entered, remark, id)
    else insert.run(id, cell.studentId, cell.assessmentId, cell.status, cell.daysLate, entered, remark)
    const version = row ? row.version + 1 : 1
    keep.run(id, version, cell.status, cell.daysLate, entered, personId, now(), remark === (row?.remark ?? '') ? null : remark)
    return cellOf(cell, { id, status: cell.status, days_late: cell.daysLate, entered, remark, version, readings: row?.readings ?? 0 })
  }

  return { sheetFor, cellsNow, write }
}

const NO_READINGS: readonly number[] = []

/** The readings of each script, by its place, in the order they were handed in. */
function readingsOf({ scripts, readings }: Table): (at: number) => readonly number[] {
  const from = new Int32Array(scripts.id.length + 1)
  for (const at of readings.script) from[at + 1]!++
  for (let at = 0; at < scripts.id.length; at++) from[at + 1]! += from[at]!
  const next = from.slice()
  const marks = new Float64Array(readings.mark.length)
  readings.script.forEach((at, i) => (marks[next[at]!++] = readings.mark[i]!))
  return (at) => (from[at] === from[at + 1] ? NO_READINGS : [...marks.subarray(from[at], from[at + 1])])
}

const ruleOf = ({ id, tolerance, step }: Table['assessments'][number], agreeBy: Table['agreeBy']) => {
  const rule = agreeBy[id]
  return rule && { rule, tolerance, step }
}

/** What a script at a place comes to by its readings, before it is rescaled; null where it has none, or none that decides. */
function plainIn({ scripts, assessments, agreed, reopened, agreeBy }: Table) {
  const openedAgain = new Set(reopened)
  const rules = assessments.map((a) => ruleOf(a, agreeBy))
  return (at: number, readings: readonly number[]): number | null => {
    if (readings.length === 0) return null
    const id = scripts.id[at]!
    const assessment = scripts.assessment[at]!
    return plainMark({
      status: STATUSES[scripts.status[at]!]!,
      entered: scripts.entered[at]!,
      agreed: agreed[id],
      reopened: openedAgain.has(id),
      readings,
      wanted: assessments[assessment]!.readingsWanted,
      rule: rules[assessment],
    })
  }
}

const isApart = ({ scripts, assessments }: Table, at: number, readings: readonly number[]): boolean =>
  readings.length >= 2 && !withinTolerance(Math.max(...readings) - Math.min(...readings), assessments[scripts.assessment[at]!]!.tolerance)

/** A marker is told that there are readings, never what they say. */
function toldOfReadings(role: Role, count: number, mark: number | null): Cell['fromReadings'] {
  if (count === 0) return null
  return sightOf(role).readings === 'all' ? { mark, readings: count } : { mark: null, readings: 0 }
}

const heldWords = (title: string, unread: number) =>
  unread > 0
    ? `Read the exemplars of ${title} first: ${unread} ${unread === 1 ? 'waits' : 'wait'} for you at Agree.`
    : `The lead holds the marking of ${title} for you.`

const cellOf = (at: { studentId: string; assessmentId: string }, row: ScriptRow): Cell => ({
  studentId: at.studentId,
  assessmentId: at.assessmentId,
  status: row.status,
  daysLate: row.days_late,
  mark: row.entered,
  fromReadings: row.readings > 0 ? { mark: null, readings: 0 } : null,
  version: row.version,
})
