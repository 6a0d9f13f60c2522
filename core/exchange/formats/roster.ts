import { isOneRoster } from '../one-roster'
import type { Format } from './format'

export const roster: Format = {
  called: 'a roster (users.csv or enrollments.csv, zipped)',
  isIn: isOneRoster,
  instead: 'Students and sections are brought in at Set out.',
}
