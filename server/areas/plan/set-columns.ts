import type { Db } from '../../kernel/db/open'

/** Fields of the contract that are columns here, by their column; no other name ever reaches the SQL. */
const COLUMN: Record<string, string> = {
  title: 'title',
  weight: 'weight',
  combine: 'combine',
  dropLowest: 'drop_lowest',
  bonus: 'bonus',
  componentId: 'component_id',
  marking: 'marking',
  outOf: 'out_of',
  worth: 'worth',
  worthFollows: 'worth_follows',
  passMark: 'pass_mark',
  tolerance: 'tolerance',
  readingsWanted: 'readings_wanted',
  counts: 'counts',
  droppable: 'droppable',
  notes: 'notes',
  away: 'away',
  use: 'use',
  standardId: 'standard_id',
}

/** Sets the columns that a patch names and raises the row's version. */
export function setColumns(db: Db, table: 'component' | 'assessment', id: string, patch: Record<string, unknown>): void {
  const fields = Object.keys(patch).filter((k) => COLUMN[k] && patch[k] !== undefined)
  if (fields.length === 0) return
  const values = fields.map((f) => toColumn(patch[f]))
  db.prepare(`UPDATE ${table} SET ${fields.map((f) => `${COLUMN[f]} = ?`).join(', ')}, version = version + 1 WHERE id = ?`).run(
    ...values,
    id,
  )
}

const toColumn = (value: unknown) =>
  typeof value === 'boolean' ? Number(value) : typeof value === 'object' && value !== null ? JSON.stringify(value) : value

/** What changes grades: once there are marks it is tried first and then decided. */
const MOVES_GRADES = ['weight', 'combine', 'dropLowest', 'bonus', 'componentId', 'worth', 'counts', 'droppable']
export const movesGrades = (patch: Record<string, unknown>): string | undefined => MOVES_GRADES.find((k) => patch[k] !== undefined)
