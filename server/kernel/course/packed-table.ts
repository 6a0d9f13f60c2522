import { packTable } from '#contract'
import type { TableLoader } from './load-table'

type Table = ReturnType<TableLoader['load']>
export type PackedTable = ReturnType<typeof packTable<Table>>

const known = new WeakMap<Table, PackedTable>()

/** A table in columns, packed once for all who ask for the same version: what travels to a page, or to a worker. */
export function packedTable(table: Table): PackedTable {
  const packed = known.get(table) ?? packTable(table)
  known.set(table, packed)
  return packed
}
