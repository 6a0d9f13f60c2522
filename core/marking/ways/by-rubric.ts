import { rubricMark, rubricTotal, type Rubric } from '../../scales/rubric'
import { byCriteria, fitting } from './criteria'
import type { Way } from './way'

/** By a rubric: a level for each criterion, or points inside its range. */
export const byRubric: Way<Rubric> = {
  ...byCriteria,
  title: 'rubric',
  check: ({ picks }, rubric) => fitting(() => rubricTotal(rubric, picks)),
  mark: ({ picks }, rubric, outOf) => rubricMark(rubric, picks, outOf, 'meant'),
}
