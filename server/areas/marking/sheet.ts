import { withinTolerance } from '#core/agree'
import { STATUSES } from '#core/grades'
import { applyingExceptions } from '#core/roll'
import { plainMark } from '#core/trial'
import { sightOf } from '#core/roles'
import { blankCells, putReadings, type Cell, type Role, type ScaleBody, type Sheet, type SheetByCell, type SheetSince } from '#contract'
import type { CellKey } from '../../kernel/course/latest-cells'
import type { Db } from '../../kernel/db/open'
import { namesFor } from '../../kernel/access/names'
import type { TableLoader } from '../../kernel/course/load-table'
import { inTurns } from '../../kernel/in-turns'
import { sheetQueries } from './queries'

type WholeTable = ReturnType<TableLoader['load']>
type Table = Omit<WholeTable, 'head'>

/** What is done or not done is typed in these words as well. */
const DONE_OR_NOT: ScaleBody['labels'] = [
  { label: 'not done', percent: 0, threshold: 0 },
  { label: 'done', percent: 100, threshold: 50 },
]

/** How many scripts are looked at before others are answered. */
const A_TURN = 20_000

/** The mark sheet: what one may see of it. */
export function sheets(db: Db, tables: TableLoader) {
  const masked = namesFor(db)
  const { followedIn, taught, readBlind, scale } = sheetQueries(db)
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

  return { sheetFor, cellsNow }
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
