import { rubricMark, rubricTotal, RubricError, scaleValue, schemeMark, type Scale } from '#core/scales'
import type { Judged, RubricBody, ScaleBody, SchemeBody, StandardInUse, StandardUse } from '#contract'
import { HttpProblem } from '../problem'
import type { libraryQueries, StandardRow } from './queries'
import type { JudgedMark } from './exemplars'

interface Of {
  outOf: number
  use: StandardUse
  /** Done or not: all that it is marked out of, or nothing. */
  completion?: boolean
  /** What is not judged is left so on purpose, and gives nothing. */
  gapMeant?: boolean
}

/** The rubric as it is marked by in an assessment: without its ranges where they are switched off. */
export const asUsed = (body: RubricBody, { ranges }: Pick<StandardUse, 'ranges'>): RubricBody =>
  ranges ? body : { ...body, criteria: body.criteria.map((c) => ({ ...c, ranges: false })) }

/**
 * The mark that follows from what somebody judged.
 * @throws HttpProblem 422 where it does not fit the standard, or something is not judged
 */
export function markOf(
  judged: Judged,
  standard: StandardInUse | null,
  { outOf, use, completion = false, gapMeant = false }: Of,
): JudgedMark {
  const gap = gapMeant ? 'meant' : 'refused'
  const { picks, judgement } = judged
  if (!standard) {
    if (judged.mark === null) throw new HttpProblem(422, completion ? 'Say whether it was done.' : 'Give a mark.', { field: 'mark' })
    if (completion && judged.mark !== 0 && judged.mark !== outOf)
      throw new HttpProblem(422, `It is done, ${outOf}, or not done, 0.`, { field: 'mark' })
    if (judged.mark < 0 || judged.mark > outOf) throw new HttpProblem(422, `${judged.mark} is outside 0 to ${outOf}.`, { field: 'mark' })
    return { picks: {}, judgement: null, mark: judged.mark }
  }
  if (standard.kind === 'scale') {
    const percent = judgement === null ? null : scaleValue(standard.body as Scale, judgement)
    if (percent === null) throw new HttpProblem(422, 'Choose a label of the scale.', { field: 'judgement' })
    return { picks, judgement, mark: (percent / 100) * outOf }
  }
  const mark = orSentence(() =>
    standard.kind === 'rubric' ? rubricMark(asUsed(standard.body, use), picks, outOf, gap) : schemeMark(standard.body, picks, outOf, gap),
  )
  if (mark === null) {
    const titles = standard.body.criteria.filter((c) => picks[c.id] === undefined).map((c) => c.title)
    throw new HttpProblem(422, `Not judged yet: ${titles.join(', ')}.`, { field: 'picks' })
  }
  return { picks, judgement: null, mark }
}

/**
 * The mark of a reading that is not done; null while something is not judged.
 * @throws HttpProblem 422 for what does not fit the standard
 */
export function markSoFar(judged: Judged, standard: StandardInUse | null, of: Of): number | null {
  const open = standard
    ? standard.kind === 'scale'
      ? judged.judgement === null
      : standard.body.criteria.some((c) => judged.picks[c.id] === undefined)
    : judged.mark === null
  if (!open) return markOf(judged, standard, of).mark
  if (standard?.kind === 'rubric') orSentence(() => rubricTotal(asUsed(standard.body, of.use), judged.picks).total)
  if (standard?.kind === 'scheme') orSentence(() => schemeMark(standard.body, judged.picks, of.outOf))
  return null
}

function orSentence(work: () => number | null): number | null {
  try {
    return work()
  } catch (e) {
    if (e instanceof RubricError) throw new HttpProblem(422, e.message, { field: 'picks' })
    throw e
  }
}

/** Finds standards of the library as one marks by them; null for no id, and for what nobody marks by. */
export const standardsOf =
  (library: Pick<ReturnType<typeof libraryQueries>, 'get'>) =>
  (id: string | null): StandardInUse | null => {
    const row = id === null ? null : library.get(id)
    return row && row.kind !== 'outcome' ? standardInUse(row) : null
  }

function standardInUse(row: StandardRow): StandardInUse {
  const { id, title, version } = row
  const body = JSON.parse(row.body) as unknown
  if (row.kind === 'rubric') return { kind: 'rubric', id, title, version, body: body as RubricBody }
  if (row.kind === 'scheme') return { kind: 'scheme', id, title, version, body: body as SchemeBody }
  return { kind: 'scale', id, title, version, body: body as ScaleBody }
}
