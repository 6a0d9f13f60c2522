import { guarded, withoutGuard } from '#core/exchange/guard'
import type { Column } from './columns'

/** What stands for nothing, so that an empty text stays one. */
export const NOTHING = '\\N'
/** Before the hash by which a long cell is found in the table of its own. */
const ELSEWHERE = '\\L'
const LIKE_OURS = /^\\+(?:N|L[0-9a-f]{64})$/

/** Characters of a cell, and of a part of a long one: common readers of CSV take up to 131,072. */
export const LONGEST_CELL = 100_000

export const longCellAt = (hash: string): string => ELSEWHERE + hash
/** The hash of a long cell that stands elsewhere; null for any other cell. */
export const hashIn = (cell: string): string | null => (/^\\L[0-9a-f]{64}$/.test(cell) ? cell.slice(ELSEWHERE.length) : null)

/** A long text in parts, none of which ends within a letter. */
export function partsOf(text: string): string[] {
  const parts: string[] = []
  for (let from = 0; from < text.length;) {
    const end = from + LONGEST_CELL
    const to = /[\uD800-\uDBFF]/.test(text[end - 1] ?? '') ? end - 1 : end
    parts.push(text.slice(from, to))
    from = to
  }
  return parts
}

/** A value of the database as a cell. */
export function toCell(value: unknown): string {
  if (value === null) return NOTHING
  if (Buffer.isBuffer(value)) return value.toString('base64')
  if (typeof value === 'string') return LIKE_OURS.test(value) ? `\\${value}` : guarded(value)
  return String(value)
}

/** A cell as a value of the database. @returns undefined where it cannot be one of that column */
export function fromCell(cell: string, { type, required }: Column): string | number | Buffer | null | undefined {
  if (cell === NOTHING) return required ? undefined : null
  if (type === 'TEXT') return LIKE_OURS.test(cell) ? cell.slice(1) : withoutGuard(cell)
  if (type === 'BLOB') return /^[A-Za-z0-9+/]*={0,2}$/.test(cell) ? Buffer.from(cell, 'base64') : undefined
  const number = cell.trim() === '' ? NaN : Number(cell)
  return Number.isFinite(number) && (type === 'REAL' || Number.isSafeInteger(number)) ? number : undefined
}
