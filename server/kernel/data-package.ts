import { strToU8, zipSync } from 'fflate'
import { DESCRIPTION, tablePath } from '#core/exchange/data-package'
import { csvOf } from '#core/exchange/write-delimited'
import { sha256 } from './sha256'

export interface Field {
  name: string
  type: 'string' | 'integer' | 'number' | 'boolean' | 'datetime'
  format?: 'binary'
  required?: boolean
}

/** A table of a data package as its description names it, with its schema (Frictionless Data Package, Table Schema). */
export const tabularResource = (
  of: { name: string; path: string; bytes: number; hash: string; missing: string; fields: readonly Field[] },
  keys: object = {},
): object => ({
  name: of.name,
  path: of.path,
  profile: 'tabular-data-resource',
  format: 'csv',
  mediatype: 'text/csv',
  encoding: 'utf-8',
  bytes: of.bytes,
  hash: `sha256:${of.hash}`,
  schema: {
    fields: of.fields.map(({ required, ...field }) => ({ ...field, ...(required ? { constraints: { required } } : {}) })),
    ...keys,
    missingValues: [of.missing],
  },
})

export interface TableToPack {
  name: string
  fields: readonly Field[]
  rows: readonly (readonly (string | number | boolean | null)[])[]
}

const cell = (value: string | number | boolean | null): string => (value === null ? '' : String(value))

/**
 * A small data package, zipped: tables as CSV with their schemas, and documents as they are. Programs read it, so that nothing is put
 * before what a spreadsheet would run.
 */
export function dataPackage(
  of: { name: string; title: string; created: string },
  tables: readonly TableToPack[],
  documents: readonly { path: string; content: object }[],
): Uint8Array {
  const files: Record<string, Uint8Array> = {}
  const resources = [
    ...tables.map(({ name, fields, rows }) => {
      const path = tablePath(name)
      const bytes = strToU8(csvOf([fields.map((f) => f.name), ...rows.map((r) => r.map(cell))]))
      files[path] = bytes
      return tabularResource({ name, path, bytes: bytes.length, hash: sha256(bytes), missing: '', fields })
    }),
    ...documents.map(({ path, content }) => {
      const bytes = strToU8(JSON.stringify(content, null, 2))
      files[path] = bytes
      // A table may be called as a document without its ending.
      const name = path.replace(/\W+/g, '-')
      return { name, path, mediatype: 'application/json', encoding: 'utf-8', bytes: bytes.length, hash: `sha256:${sha256(bytes)}` }
    }),
  ]
  const name = of.name.toLowerCase().replace(/[^a-z0-9._/-]+/g, '-')
  files[DESCRIPTION] = strToU8(JSON.stringify({ profile: 'data-package', ...of, name, resources }, null, 2))
  return zipSync(files)
}
