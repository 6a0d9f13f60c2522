import { RubricError, type Picks } from '../../scales/rubric'
import { JudgedError, type Judged } from './way'

interface Criteria {
  criteria: readonly { id: string; title: string }[]
}

/** What ways that go criterion by criterion share. */
export const byCriteria = {
  unjudged: ({ picks }: Judged, { criteria }: Criteria): string[] => criteria.filter((c) => picks[c.id] === undefined).map((c) => c.title),
  asks: (titles: readonly string[]): JudgedError => new JudgedError(`Not judged yet: ${titles.join(', ')}.`, 'picks'),
  keeps: ({ picks }: Judged): { picks: Picks; judgement: null } => ({ picks, judgement: null }),
}

/** A pick that a standard does not have is said where it was made. */
export function fitting(work: () => unknown): void {
  try {
    work()
  } catch (e) {
    throw e instanceof RubricError ? new JudgedError(e.message, 'picks') : e
  }
}
