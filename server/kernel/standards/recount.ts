import { isDeepStrictEqual } from 'node:util'
import type { AgreeRule } from '#core/agree'
import type { Grant, Reread, Without } from '#core/rescale'
import { criteriaOf, markGranting, markWithout, type Picks, type StandardCriterion } from '#core/scales'
import type { Db } from '../db/open'
import { atOnce } from '#contract'
import { HttpProblem } from '../problem'
import type { AssessmentRow } from '../course/rows'
import { standardsOf } from './judge'
import { libraryQueries } from './queries'

/** What is to be counted otherwise, and how. */
export interface Recount {
  how: 'without' | 'grant'
  criterionIds: string[]
}

const MARK = { without: markWithout, grant: markGranting }
/** Readings between which others may be answered. */
const AT_ONCE = 2000

/** Counts the criteria of readings, and of what was agreed criterion by criterion, another way. */
export function recounter(db: Db) {
  const standardOf = standardsOf(libraryQueries(db))
  const readings = db
    .prepare<[string], [string, string, string, string]>(
      `SELECT r.script_id, r.marker_id, coalesce(c.standard_id, r.standard_id), coalesce(c.picks, r.picks) FROM script s
       JOIN reading r ON r.script_id = s.id LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version
       WHERE s.assessment_id = ? AND r.state = 'handed in' AND r.standard_id IS NOT NULL ORDER BY r.script_id, r.marker_id`,
    )
    .raw()
  const rules = db
    .prepare<[string], [string, string]>(
      `SELECT g.script_id, g.rule FROM last_word g JOIN script s ON s.id = g.script_id
       WHERE s.assessment_id = ? AND g.mark IS NOT NULL AND json_extract(g.rule, '$.kind') = 'criteria' ORDER BY g.script_id`,
    )
    .raw()

  /** Stops every so often, so that whoever else is asking may be answered in between. */
  function* inPieces(assessment: AssessmentRow, { how, criterionIds }: Recount): Generator<void, Reread> {
    const known = new Map<string, StandardCriterion[]>()
    const criteria = (id: string) => {
      const own = known.get(id) ?? criteriaOf(standardOf(id))
      known.set(id, own)
      return own
    }
    const now = assessment.standard_id === null ? [] : criteria(assessment.standard_id)
    const missing = criterionIds.find((id) => !now.some((c) => c.id === id))
    if (missing !== undefined) throw new HttpProblem(422, 'There is no such criterion in what it is marked by.', { field: 'criterionIds' })
    if (how === 'without' && now.every((c) => c.penalty || criterionIds.includes(c.id)))
      throw new HttpProblem(422, 'Leave one criterion in, so that there is something to mark by.', { field: 'criterionIds' })
    const found: Reread = { scriptIds: [], markerIds: [], marks: [] }
    const take = (scriptId: string, markerId: string | null, by: StandardCriterion[], picks: Picks) => {
      const mark = by.some((c) => criterionIds.includes(c.id)) ? MARK[how](by, picks, criterionIds, assessment.out_of) : null
      if (mark === null) return
      found.scriptIds.push(scriptId)
      found.markerIds.push(markerId)
      found.marks.push(mark)
    }
    let read = 0
    for (const [scriptId, markerId, standardId, picks] of readings.all(assessment.id)) {
      take(scriptId, markerId, criteria(standardId), JSON.parse(picks) as Picks)
      if (++read % AT_ONCE === 0) yield
    }
    for (const [scriptId, text] of rules.all(assessment.id)) {
      const rule = JSON.parse(text) as AgreeRule
      if (rule.kind === 'criteria') take(scriptId, null, now, rule.picks)
    }
    return found
  }

  return {
    inPieces,
    /** Whether it would give just these marks, now. */
    stillGives(assessment: AssessmentRow, { kind, criterionIds, scriptIds, markerIds, marks }: Without | Grant): boolean {
      return isDeepStrictEqual(atOnce(inPieces(assessment, { how: kind, criterionIds })), { scriptIds, markerIds, marks })
    },
  }
}
