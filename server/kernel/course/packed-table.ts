import { packingTable, type PackedTable as Packed } from '#contract'
import { inTurns } from '../in-turns'
import type { TableLoader } from './load-table'

type Table = ReturnType<TableLoader['load']>
export type PackedTable = Packed<Table>

const known = new WeakMap<Table, Promise<PackedTable>>()

/** A table in columns, packed once for all who ask for the same version: what travels to a page, or to a worker. */
export function packedTable(table: Table): Promise<PackedTable> {
  const packed = known.get(table) ?? inTurns(packingTable(table))
  known.set(table, packed)
  return packed
}
