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

interface NotCarried {
  scriptId: string
  student: string
  marker: string
  why: string
}

interface Carrying {
  changes: Change[]
  carried: number
  moved: number
  settled: number
}

export interface CarriedOver extends Carrying {
  left: NotCarried[]
  /** With those at a level that is gone as well, at the nearest one. */
  nearest: (Carrying & { at: NotCarried[] }) | null
}

/** A reading carried over. */
type Carried = Extract<Change, { kind: 'carry' }>['readings'][number]

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
    const [left, near]: [NotCarried[], NotCarried[]] = [[], []]
    const [carried, moved]: [Carried[], Carried[]] = [[], []]
    const atNearest: Carried[] = []
    for (const r of readings.all(assessment.id)) {
      if (r.standardId === standardId) continue
      const before = from.get(r.standardId) ?? rubric(r.standardId)
      from.set(r.standardId, before)
      const say = (why: string) => left.push({ scriptId: r.scriptId, student: r.student, marker: r.marker, why })
      if (before.row.lineId !== to.row.lineId) {
        say(`was read by ${before.row.title}, which is another rubric`)
        continue
      }
      const own = JSON.parse(r.picks) as Record<string, number>
      const { picks, unjudged, nearest } = carryPicks(before.body, to.body, own)
      // A criterion that was there and was left open on purpose is left open by the other version too.
      const meant = unjudged.every((id) => own[id] === undefined && before.body.criteria.some((c) => c.id === id))
      const mark = rubricMark(to.body, picks, assessment.out_of, meant ? 'meant' : 'refused')
      if (mark === null) {
        const titles = unjudged.map((id) => to.body.criteria.find((c) => c.id === id)!.title)
        say(`${titles.join(', ')} ${titles.length === 1 ? 'is' : 'are'} not judged`)
        continue
      }
      const one = { scriptId: r.scriptId, markerId: r.markerId, version: r.version, picks, mark }
      if (mark !== r.mark) moved.push(one)
      if (nearest.length === 0) carried.push(one)
      else {
        atNearest.push(one)
        const said = nearest.map(
          (id) => `${to.body.criteria.find((c) => c.id === id)!.title}: its level is gone, ${picks[id]} is the nearest`,
        )
        near.push({ scriptId: r.scriptId, student: r.student, marker: r.marker, why: said.join('; ') })
      }
    }
    const carrying = (all: Carried[]): Carrying => {
      if (all.length === 0) return { changes: [], carried: 0, moved: 0, settled: 0 }
      const carry = { kind: 'carry' as const, assessmentId: assessment.id, standardId, readings: all }
      const settled = settledAgain(assessment, carry, w)
      const those = new Set(all)
      return { changes: [carry, ...settled], carried: all.length, moved: moved.filter((r) => those.has(r)).length, settled: settled.length }
    }
    return {
      ...carrying(carried),
      left,
      nearest: near.length === 0 ? null : { ...carrying([...carried, ...atNearest]), at: near },
    }
  }

  /** Agreed marks that follow their readings by a rule follow them to the new marks; a mark of the lead's own stays. */
  function settledAgain(assessment: AssessmentRow, carry: Extract<Change, { kind: 'carry' }>, w: Workings): Change[] {
    const after = applyChanges(w, [carry])
    const touched = new Set(carry.readings.map((r) => r.scriptId))
    return rules.all(assessment.id).flatMap(({ scriptId, rule }): Change[] => {
      const parsed = JSON.parse(rule) as AgreeRule
      if (!touched.has(scriptId) || parsed.kind === 'value' || parsed.kind === 'criteria') return []
      const cell = w.cells.ofScript(scriptId)
      const again = settleBy(after, [cell], parsed, assessment.step)
      return again.filter((c) => c.kind === 'settle' && c.mark !== w.agreed.get(cell))
    })
  }
}
