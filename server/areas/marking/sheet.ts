import { withinTolerance } from '#core/agree'
import { STATUSES, type Status } from '#core/grades'
import { applyingExceptions } from '#core/roll'
import { withStatus } from '#core/marking'
import { plainMark } from '#core/trial'
import { sightOf } from '#core/roles'
import {
  addCell,
  noCells,
  type Cell,
  type CellRefusal,
  type CellWrite,
  type Role,
  type ScaleBody,
  type Sheet,
  type SheetInColumns,
  type SheetSince,
} from '#contract'
import type { CellKey } from '../../kernel/course/latest-cells'
import { now, type Db } from '../../kernel/db/open'
import { namesFor } from '../../kernel/access/names'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { atOnce, inTurns } from '../../kernel/in-turns'
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
  const sheetFor = async (courseId: string, personId: string, role: Role): Promise<SheetInColumns> =>
    inTurns(putTogether(courseId, await tables.loadInTurns(courseId), personId, role))

  /** Stops after some thousand scripts. What is written meanwhile may be in it or not: it is of the version at its beginning, after which all of that comes. */
  function* putTogether(courseId: string, table: WholeTable, personId: string, role: Role): Generator<void, SheetInColumns> {
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
    const read = readingsOf(table)
    yield
    const plain = yield* plainMarks(table, [...new Set(table.readings.script)])
    yield
    // Places in the table's list, which has everybody, to places in the list that is sent.
    const shownAt = table.students.map((s) => studentAt.get(s.id) ?? -1)
    const outcomeOf = followedIn(courseId)
    const cells = noCells()
    for (let i = 0; i < read.counts.length; i++) {
      if (i % A_TURN === 0) yield
      const student = shownAt[scripts.student[i]!]!
      if (student < 0) continue
      addCell(cells, student, scripts.assessment[i]!, {
        status: STATUSES[scripts.status[i]!]!,
        daysLate: scripts.daysLate[i]!,
        mark: scripts.entered[i]!,
        // That somebody has read blind, told beside a name, would tell whose script it was.
        fromReadings: hidden[scripts.assessment[i]!] ? null : toldOfReadings(role, read.counts[i]!, plain.get(i) ?? null),
        version: scripts.version[i]!,
      })
    }
    yield
    const over = sight.readings === 'all' ? overTolerance(table, read) : []
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
    const plain =
      sight.readings === 'all'
        ? atOnce(
            plainMarks(
              table,
              [...marks].flatMap(([at, theirs]) => (theirs.length > 0 ? [at] : [])),
            ),
          )
        : new Map<number, number>()
    const { status, daysLate, entered, version } = table.scripts
    return found.map(({ key, at }) => {
      const own = marks.get(at)!
      return {
        ...key,
        status: STATUSES[status[at]!]!,
        daysLate: daysLate[at]!,
        mark: entered[at]!,
        fromReadings: toldOfReadings(role, own.length, plain.get(at) ?? null),
        version: version[at]!,
        overTolerance: sight.readings === 'all' && isApart(table, at, own.length, Math.max(...own) - Math.min(...own)),
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

/** Of each script, by its place: how many readings it has, and how far they are apart. */
function readingsOf({ scripts, readings }: Table) {
  const n = scripts.id.length
  const counts = new Int32Array(n)
  const lowest = new Float64Array(n).fill(Infinity)
  const highest = new Float64Array(n).fill(-Infinity)
  readings.script.forEach((at, i) => {
    const mark = readings.mark[i]!
    counts[at]!++
    if (mark < lowest[at]!) lowest[at] = mark
    if (mark > highest[at]!) highest[at] = mark
  })
  return { counts, spread: (at: number) => highest[at]! - lowest[at]! }
}

const ruleOf = ({ id, tolerance, step }: Table['assessments'][number], agreeBy: Table['agreeBy']) => {
  const rule = agreeBy[id]
  return rule && { rule, tolerance, step }
}

/** What scripts with readings come to before they are rescaled, by their places; the others are as they were typed. */
function* plainMarks(
  { scripts, readings, assessments, agreed, reopened, agreeBy }: Table,
  places: readonly number[],
): Generator<void, Map<number, number | null>> {
  const own = new Map(places.map((place) => [place, [] as number[]]))
  const openedAgain = new Set(reopened)
  readings.script.forEach((place, i) => own.get(place)?.push(readings.mark[i]!))
  const plain = new Map<number, number | null>()
  for (const [place, marks] of own) {
    if (plain.size % A_TURN === 0) yield
    const mark = plainMark({
      status: STATUSES[scripts.status[place]!]!,
      entered: scripts.entered[place]!,
      agreed: agreed[scripts.id[place]!],
      reopened: openedAgain.has(scripts.id[place]!),
      readings: marks,
      wanted: assessments[scripts.assessment[place]!]!.readingsWanted,
      rule: ruleOf(assessments[scripts.assessment[place]!]!, agreeBy),
    })
    plain.set(place, mark)
  }
  return plain
}

const isApart = ({ scripts, assessments }: Table, at: number, readings: number, spread: number): boolean =>
  readings >= 2 && !withinTolerance(spread, assessments[scripts.assessment[at]!]!.tolerance)

function overTolerance(table: Table, read: ReturnType<typeof readingsOf>): Sheet['overTolerance'] {
  const { scripts, students, assessments } = table
  return scripts.id.flatMap((_, i) =>
    isApart(table, i, read.counts[i]!, read.spread(i))
      ? [{ studentId: students[scripts.student[i]!]!.id, assessmentId: assessments[scripts.assessment[i]!]!.id }]
      : [],
  )
}

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
