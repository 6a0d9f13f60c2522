import type { AgreeRule } from '#core/agree'
import { carryLabel, carryPicks, rubricMark, scaleMark, type Picks, type Rubric, type Scale } from '#core/scales'
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
  judgement: string | null
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

/** A rubric or a scale, one of whose versions readings are carried over to. */
type Version = { lineId: string; title: string } & ({ kind: 'rubric'; body: Rubric } | { kind: 'scale'; body: Scale })

/** What a reading is by another version, and what of it is only the nearest; or why it is nothing there. */
type Over = (Pick<Carried, 'picks' | 'judgement' | 'mark'> & { nearest: string[] }) | { why: string }

/** What carrying the handed-in readings of an assessment over to another version of what they were read by would change. */
export function carrier(db: Db) {
  const library = libraryQueries(db)
  const readings = db.prepare<[string], ReadingRow>(`
    SELECT r.script_id AS scriptId, r.marker_id AS markerId, r.version, coalesce(c.standard_id, r.standard_id) AS standardId,
      coalesce(c.picks, r.picks) AS picks, coalesce(c.judgement, r.judgement) AS judgement, coalesce(c.mark, r.mark) AS mark,
      t.name AS student, p.name AS marker
    FROM script s JOIN reading r ON r.script_id = s.id JOIN student t ON t.id = s.student_id JOIN person p ON p.id = r.marker_id
    LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version
    WHERE s.assessment_id = ? AND r.state = 'handed in' AND r.standard_id IS NOT NULL ORDER BY r.handed_in_at, r.rowid`)
  const rules = db.prepare<[string], { scriptId: string; rule: string }>(`
    SELECT g.script_id AS scriptId, g.rule FROM last_word g JOIN script s ON s.id = g.script_id WHERE s.assessment_id = ? AND g.mark IS NOT NULL`)

  const version = (id: string): Version => {
    const row = library.get(id)
    if (row?.kind !== 'rubric' && row?.kind !== 'scale')
      throw new HttpProblem(422, 'Only readings by a rubric or a scale are carried over to a version of it.')
    return { lineId: row.lineId, title: row.title, kind: row.kind, body: JSON.parse(row.body) as never }
  }

  return function carriedOver(assessment: AssessmentRow, standardId: string, w: Workings): CarriedOver {
    const to = version(standardId)
    const from = new Map<string, Version>()
    const [left, near]: [NotCarried[], NotCarried[]] = [[], []]
    const [carried, moved]: [Carried[], Carried[]] = [[], []]
    const atNearest: Carried[] = []
    for (const r of readings.all(assessment.id)) {
      if (r.standardId === standardId) continue
      const before = from.get(r.standardId) ?? version(r.standardId)
      from.set(r.standardId, before)
      const say = (why: string) => left.push({ scriptId: r.scriptId, student: r.student, marker: r.marker, why })
      const over = overTo(before, to, r, assessment.out_of)
      if ('why' in over) {
        say(over.why)
        continue
      }
      const { nearest, ...is } = over
      const one = { scriptId: r.scriptId, markerId: r.markerId, version: r.version, ...is }
      if (one.mark !== r.mark) moved.push(one)
      if (nearest.length === 0) carried.push(one)
      else {
        atNearest.push(one)
        near.push({ scriptId: r.scriptId, student: r.student, marker: r.marker, why: nearest.join('; ') })
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

function overTo(before: Version, to: Version, r: Pick<ReadingRow, 'picks' | 'judgement'>, outOf: number): Over {
  if (before.lineId === to.lineId) {
    if (before.kind === 'rubric' && to.kind === 'rubric') return picksOver(before.body, to.body, JSON.parse(r.picks) as Picks, outOf)
    if (before.kind === 'scale' && to.kind === 'scale') return labelOver(before.body, to.body, r.judgement ?? '', outOf)
  }
  return { why: `was read by ${before.title}, which is no version of ${to.title}` }
}

function picksOver(before: Rubric, to: Rubric, own: Picks, outOf: number): Over {
  const { picks, unjudged, nearest } = carryPicks(before, to, own)
  const titleOf = (id: string) => to.criteria.find((c) => c.id === id)!.title
  // A criterion that was there and was left open on purpose is left open by the other version too.
  const meant = unjudged.every((id) => own[id] === undefined && before.criteria.some((c) => c.id === id))
  const mark = rubricMark(to, picks, outOf, meant ? 'meant' : 'refused')
  if (mark === null) return { why: `${unjudged.map(titleOf).join(', ')} ${unjudged.length === 1 ? 'is' : 'are'} not judged` }
  return { picks, mark, nearest: nearest.map((id) => `${titleOf(id)}: its level is gone, ${picks[id]} is the nearest`) }
}

function labelOver(before: Scale, to: Scale, own: string, outOf: number): Over {
  const carried = carryLabel(before, to, own)
  if (!carried) return { why: `“${own}” is no label of the version it was read by` }
  const { label, nearest } = carried
  return {
    picks: {},
    judgement: label,
    mark: scaleMark(to, label, outOf)!,
    nearest: nearest ? [`“${own}” is gone, “${label}” is the nearest`] : [],
  }
}
