import type { Picks } from '../../scales/rubric'
import { readingPlaces, type ReadingColumns } from '../workings'
import { ChangeError, counted, there, type ChangeKind, type Draft } from './kind'

export interface CarriedReading {
  scriptId: string
  markerId: string
  /** Version of the reading that was carried over; a later one stands as it was made. */
  version: number
  picks: Picks
  /** The label of an overall judgement, by a scale. */
  judgement?: string | undefined
  mark: number
}

/** Readings carried over to another version of the rubric or the scale that they were read by. */
export interface Carry {
  kind: 'carry'
  assessmentId: string
  standardId: string
  readings: CarriedReading[]
}

export const carry: ChangeKind<Carry> = {
  decides: 'reconcile',
  word: 'carried over',
  target: (c) => c.assessmentId,
  apply(draft, c) {
    draft.readings = carriedInto(draft, c.readings)
  },
  check(c, { assessments, carriesNow }) {
    there(assessments, c.assessmentId, 'assessment')
    if (!carriesNow(c)) throw new ChangeError('Readings, or what they were read by, changed meanwhile: carry them over again.', true)
  },
  words: (all, { title }) =>
    all.map((c) => `${counted(c.readings.length, 'reading')} of ${title(c.assessmentId)} carried over to another version`),
}

function carriedInto({ cells, readings, markerIds }: Draft, carried: readonly CarriedReading[]): ReadingColumns {
  const markerAt = new Map(markerIds.map((id, i) => [id, i]))
  const mark = readings.mark.slice()
  const { from, places } = readingPlaces({ cells, readings })
  for (const r of carried) {
    const cell = cells.ofScript(r.scriptId)
    if (cell < 0) continue
    for (let i = from[cell]!; i < from[cell + 1]!; i++)
      if (readings.marker[places[i]!] === markerAt.get(r.markerId)) mark[places[i]!] = r.mark
  }
  return { ...readings, mark }
}
