/** Orders of rows, in words. */
export const ORDERS = { plan: 'in their own order', lean: 'by lean', name: 'by name', doubt: 'by doubt' } as const
export type Order = keyof typeof ORDERS

export interface OrderedRow {
  name: string
  lean: number | null
  interval: [low: number, high: number] | null
}

const wide = ({ interval }: OrderedRow) => (interval ? interval[1] - interval[0] : Infinity)

/** Rows whose names hold a text, in an order: by lean the most generous first, by doubt the least sure first. */
export function orderRows<T>(rows: readonly T[], of: (row: T) => OrderedRow, order: Order, wanted: string): T[] {
  const text = wanted.trim().toLocaleLowerCase()
  const found = rows.map((row) => ({ row, by: of(row) })).filter(({ by }) => by.name.toLocaleLowerCase().includes(text))
  if (order === 'lean') found.sort((a, b) => (b.by.lean ?? -Infinity) - (a.by.lean ?? -Infinity))
  if (order === 'name') found.sort((a, b) => a.by.name.localeCompare(b.by.name))
  if (order === 'doubt') found.sort((a, b) => wide(b.by) - wide(a.by))
  return found.map(({ row }) => row)
}
