import type { Db } from '../../../kernel/db/open'
import { PACKAGED, type PackagedTable } from './tables'

export interface Column {
  name: string
  type: 'TEXT' | 'INTEGER' | 'REAL' | 'BLOB'
  required: boolean
}
export interface Reference {
  columns: string[]
  table: string
  referred: string[]
}
/** A table as the database has it. */
export interface TableShape extends PackagedTable {
  columns: string[]
  shape: Column[]
  key: string[]
  references: Reference[]
}

/** Cells that are too long for a table of their own kind, in parts. */
export const LONG_CELLS: TableShape = {
  name: 'long_cells',
  rows: '',
  columns: ['hash', 'part', 'text'],
  shape: [
    { name: 'hash', type: 'TEXT', required: true },
    { name: 'part', type: 'INTEGER', required: true },
    { name: 'text', type: 'TEXT', required: true },
  ],
  key: ['hash', 'part'],
  references: [],
}

/** The columns, keys and references of the tables that are packaged. */
export function shapes(db: Db): TableShape[] {
  return PACKAGED.map((table) => {
    const info = db.pragma(`table_info("${table.name}")`) as { name: string; type: Column['type']; notnull: 0 | 1; pk: number }[]
    const left = (name: string, place: number) => (table.columns ? table.columns.includes(name) : true) && !(table.counted && place === 0)
    const shape = info
      .filter((c, i) => left(c.name, i))
      .map(({ name, type, notnull, pk }) => ({ name, type, required: notnull === 1 || pk > 0 }))
    const taken = new Set(shape.map((c) => c.name))
    const parts = db.pragma(`foreign_key_list("${table.name}")`) as { id: number; seq: number; table: string; from: string; to: string }[]
    const references = [...new Set(parts.map((p) => p.id))]
      .map((id) => parts.filter((p) => p.id === id))
      .map((of) => ({ columns: of.map((p) => p.from), table: of[0]!.table, referred: of.map((p) => p.to) }))
      .filter((r) => r.columns.every((c) => taken.has(c)))
    const key = info
      .filter((c) => c.pk > 0 && taken.has(c.name))
      .sort((a, b) => a.pk - b.pk)
      .map((c) => c.name)
    return { ...table, columns: shape.map((c) => c.name), shape, key, references }
  })
}

/** In SQL, the ids of everybody whom the course's rows name. */
export function peopleOf(all: readonly TableShape[]): string {
  return all
    .flatMap((t) =>
      t.references.filter((r) => r.table === 'person').map((r) => `SELECT t.${r.columns[0]} FROM "${t.name}" t WHERE ${t.rows}`),
    )
    .join(' UNION ')
}
