import { guarded, withoutGuard } from '#core/exchange/guard'
import type { Column } from './columns'

/** What stands for nothing, so that an empty text stays one. */
export const NOTHING = '\\N'
const LIKE_NOTHING = /^\\+N$/

/** A value of the database as a cell. */
export function toCell(value: unknown): string {
  if (value === null) return NOTHING
  if (Buffer.isBuffer(value)) return value.toString('base64')
  if (typeof value === 'string') return LIKE_NOTHING.test(value) ? `\\${value}` : guarded(value)
  return String(value)
}

/** A cell as a value of the database. @returns undefined where it cannot be one of that column */
export function fromCell(cell: string, { type, required }: Column): string | number | Buffer | null | undefined {
  if (cell === NOTHING) return required ? undefined : null
  if (type === 'TEXT') return LIKE_NOTHING.test(cell) ? cell.slice(1) : withoutGuard(cell)
  if (type === 'BLOB') return /^[A-Za-z0-9+/]*={0,2}$/.test(cell) ? Buffer.from(cell, 'base64') : undefined
  const number = cell.trim() === '' ? NaN : Number(cell)
  return Number.isFinite(number) && (type === 'REAL' || Number.isSafeInteger(number)) ? number : undefined
}
