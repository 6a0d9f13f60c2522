import { JudgedError, markOf as judgedMark, markSoFar as soFar, type JudgedOn } from '#core/marking'
import type { Judged, RubricBody, ScaleBody, SchemeBody, StandardInUse, StandardUse } from '#contract'
import { HttpProblem } from '../problem'
import type { libraryQueries, StandardRow } from './queries'
import type { JudgedMark } from './exemplars'

type Of = Omit<JudgedOn, 'standard'> & { use: StandardUse }

/** The rubric as it is marked by in an assessment: without its ranges where they are switched off. */
export const asUsed = (body: RubricBody, { ranges }: Pick<StandardUse, 'ranges'>): RubricBody =>
  ranges ? body : { ...body, criteria: body.criteria.map((c) => ({ ...c, ranges: false })) }

const on = (standard: StandardInUse | null, { use, ...of }: Of): JudgedOn => ({
  ...of,
  standard: standard?.kind === 'rubric' ? { ...standard, body: asUsed(standard.body, use) } : standard,
})

/** @throws HttpProblem 422 where it does not fit the standard, or something is not judged */
export const markOf = (judged: Judged, standard: StandardInUse | null, of: Of): JudgedMark =>
  orSentence(() => judgedMark(judged, on(standard, of)))

/** Null while something is not judged. @throws HttpProblem 422 for what does not fit the standard */
export const markSoFar = (judged: Judged, standard: StandardInUse | null, of: Of): number | null =>
  orSentence(() => soFar(judged, on(standard, of)))

function orSentence<T>(work: () => T): T {
  try {
    return work()
  } catch (e) {
    if (e instanceof JudgedError) throw new HttpProblem(422, e.message, { field: e.field })
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
