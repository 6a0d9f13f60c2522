import { rationalOf } from '../../grades/rational'
import { AdjustmentError, type ReadingMap, type ReadingMethod } from './method'

/** What readings come to by another count of their criteria, as it was reckoned when it was tried. */
export interface Reread {
  scriptIds: string[]
  /** Whose reading it is; null for what was agreed criterion by criterion. */
  markerIds: (string | null)[]
  marks: number[]
}

export interface Without extends Reread {
  kind: 'without'
  criterionIds: string[]
}

export interface Grant extends Reread {
  kind: 'grant'
  criterionIds: string[]
}

function mapOf({ criterionIds, scriptIds, markerIds, marks }: Without | Grant): ReadingMap {
  if (criterionIds.length === 0) throw new AdjustmentError('Choose the criterion it is about.')
  if (scriptIds.length !== marks.length || markerIds.length !== marks.length)
    throw new AdjustmentError('What was reckoned for the readings is not whole: try it anew.')
  const known = new Map(scriptIds.map((id, i) => [`${markerIds[i] ?? ''} ${id}`, marks[i]!]))
  return ({ scriptId, markerId }) => {
    const mark = known.get(`${markerId ?? ''} ${scriptId}`)
    return mark === undefined ? null : rationalOf(mark)
  }
}

const some = (ids: readonly string[]) => (ids.length === 1 ? 'a criterion' : `${ids.length} criteria`)

export const without: ReadingMethod<Without> = {
  acts: 'readings',
  title: 'leave a criterion out',
  says: 'A criterion counts for nobody: the total without it, over the maximum without it.',
  assumes: 'That the rest shows what the whole was to show.',
  notWhen: 'Some did well on it and would lose by it: give everyone its points instead.',
  done: ({ criterionIds }) => `without ${some(criterionIds)}`,
  reading: mapOf,
}

export const grant: ReadingMethod<Grant> = {
  acts: 'readings',
  title: 'give a criterion to all',
  says: 'Everyone gets the full points of a criterion.',
  assumes: 'That nobody could be expected to do it.',
  notWhen: 'It sorted the strong from the weak as it should: look at how it goes with the rest.',
  done: ({ criterionIds }) => `${some(criterionIds)} given to all in full`,
  reading: mapOf,
}
