import { isRosterResults } from '../roster-results'
import type { Format } from './format'

export const rosterResults: Format = {
  called: 'a roster’s results (lineItems.csv and results.csv, zipped)',
  isIn: isRosterResults,
  instead: 'Marks are brought in at Mark.',
}
