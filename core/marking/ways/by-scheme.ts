import { schemeMark, type MarkScheme } from '../../scales/rubric'
import { byCriteria, fitting } from './criteria'
import type { Way } from './way'

/** By a mark scheme: points for each part, up to its maximum. */
export const byScheme: Way<MarkScheme> = {
  ...byCriteria,
  title: 'mark scheme',
  check: ({ picks }, scheme, outOf) => fitting(() => schemeMark(scheme, picks, outOf)),
  mark: ({ picks }, scheme, outOf) => schemeMark(scheme, picks, outOf, 'meant'),
}
