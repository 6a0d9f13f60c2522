import type { AgreeRule } from '#core/agree'
import { carryPicks, rubricMark, type Criterion } from '#core/scales'
import { applyChanges, settleBy, type Workings } from '#core/trial'
import type { Change } from '#contract'
import type { Db } from '../db/open'
import { HttpProblem } from '../problem'
import type { AssessmentRow } from '../course/rows'
import { libraryQueries } from './queries'

interface ReadingRow {
  scriptId: string
  markerId: string
  version: number
  standardId: string
  picks: string
  mark: number
  student: string
  marker: string
}

export interface CarriedOver {
  changes: Change[]
  carried: number
  moved: number
  settled: number
  left: { scriptId: string; student: string; marker: string; why: string }[]
}

/** What carrying the handed-in readings of an assessment over to another version of its rubric would change. */
export function carrier(db: Db) {
  const library = libraryQueries(db)
  const readings = db.prepare<[string], ReadingRow>(`
    SELECT r.script_id AS scriptId, r.marker_id AS markerId, r.version, coalesce(c.standard_id, r.standard_id) AS standardId,
      coalesce(c.picks, r.picks) AS picks, coalesce(c.mark, r.mark) AS mark, t.name AS student, p.name AS marker
    FROM script s JOIN reading r ON r.script_id = s.id JOIN student t ON t.id = s.student_id JOIN person p ON p.id = r.marker_id
    LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version
    WHERE s.assessment_id = ? AND r.state = 'handed in' AND r.standard_id IS NOT NULL ORDER BY r.handed_in_at, r.rowid`)
  const rules = db.prepare<[string], { scriptId: string; rule: string }>(`
    SELECT g.script_id AS scriptId, g.rule FROM last_word g JOIN script s ON s.id = g.script_id WHERE s.assessment_id = ? AND g.mark IS NOT NULL`)

  const rubric = (id: string) => {
    const row = library.get(id)
    if (row?.kind !== 'rubric')
      throw new HttpProblem(422, 'Only readings by a rubric are carried over, level by level, to a version of it.')
    return { row, body: JSON.parse(row.body) as { criteria: Criterion[] } }
  }

  return function carriedOver(assessment: AssessmentRow, standardId: string, w: Workings): CarriedOver {
    const to = rubric(standardId)
    const from = new Map<string, ReturnType<typeof rubric>>()
    const left: CarriedOver['left'] = []
    const carried: Extract<Change, { kind: 'carry' }>['readings'] = []
    let moved = 0
    for (const r of readings.all(assessment.id)) {
      if (r.standardId === standardId) continue
      const before = from.get(r.standardId) ?? rubric(r.standardId)
      from.set(r.standardId, before)
      const say = (why: string) => left.push({ scriptId: r.scriptId, student: r.student, marker: r.marker, why })
      if (before.row.lineId !== to.row.lineId) {
        say(`was read by ${before.row.title}, which is another rubric`)
        continue
      }
      const { picks, unjudged } = carryPicks(before.body, to.body, JSON.parse(r.picks) as Record<string, number>)
      const mark = rubricMark(to.body, picks, assessment.out_of)
      if (mark === null) {
        const titles = unjudged.map((id) => to.body.criteria.find((c) => c.id === id)!.title)
        say(`${titles.join(', ')} ${titles.length === 1 ? 'is' : 'are'} not judged`)
        continue
      }
      carried.push({ scriptId: r.scriptId, markerId: r.markerId, version: r.version, picks, mark })
      if (mark !== r.mark) moved++
    }
    if (carried.length === 0) return { changes: [], carried: 0, moved: 0, settled: 0, left }

    // Agreed marks that follow their readings by a rule follow them to the new marks; a mark of the lead's own stays.
    const carry: Change = { kind: 'carry', assessmentId: assessment.id, standardId, readings: carried }
    const after = applyChanges(w, [carry])
    const touched = new Set(carried.map((r) => r.scriptId))
    const settled = rules.all(assessment.id).flatMap(({ scriptId, rule }): Change[] => {
      const parsed = JSON.parse(rule) as AgreeRule
      if (!touched.has(scriptId) || parsed.kind === 'value' || parsed.kind === 'criteria') return []
      const cell = w.cells.ofScript(scriptId)
      const again = settleBy(after, [cell], parsed, assessment.step)
      return again.filter((c) => c.kind === 'settle' && c.mark !== w.agreed.get(cell))
    })
    return {
      changes: [carry, ...settled],
      carried: carried.length,
      moved,
      settled: settled.length,
      left,
    }
  }
}
