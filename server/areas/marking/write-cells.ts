import type { Status } from '#core/grades'
import { whyNoMark, withStatus } from '#core/marking'
import { sightOf } from '#core/roles'
import type { Assessment, Cell, CellRefusal, CellWrite, Role } from '#contract'
import { appliesTo } from '../../kernel/course/applies-to'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { now, type Db } from '../../kernel/db/open'
import { gateFor } from '../../kernel/standards/exemplars'
import { cellQueries, sheetQueries, type ScriptRow } from './queries'
import { readersOf, readNotTyped } from './readers'

/** What holds a script back or takes it out is a decision about a student, not a mark. */
const isGuarded = (status: Status): boolean => status === 'held' || status === 'exempt'

const sameValue = (a: Pick<Cell, 'mark' | 'status' | 'daysLate'>, b: Pick<CellWrite, 'mark' | 'status' | 'daysLate'>) =>
  a.mark === b.mark && a.status === b.status && a.daysLate === b.daysLate

/** How cells of the mark sheet are written. */
export function cellWriter(db: Db, plans: PlanLoader) {
  const { followedIn, taught } = sheetQueries(db)
  const { script, student, staysOf, insert, update, keep, lastBy } = cellQueries(db)
  const gateOf = gateFor(db)
  const readers = readersOf(db)

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
    const outside = ({ mark }: CellWrite, { outOf, bonus, marking }: Assessment) =>
      mark === null ? null : whyNoMark(mark, { outOf, bonus, completion: marking === 'completion' && !following })
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
      else if (outside(cell, assessment)) refuse('range', outside(cell, assessment)!)
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

  return write
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
