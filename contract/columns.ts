import { fromByteArray, toByteArray } from 'base64-js'
import { z } from 'zod'

const ARRAYS = { u8: Uint8Array, u16: Uint16Array, i32: Int32Array, f64: Float64Array } as const
export type ColumnKind = keyof typeof ARRAYS
export type ColumnOf<K extends ColumnKind> = InstanceType<(typeof ARRAYS)[K]>

type Base64 = { fromBase64?: (text: string) => Uint8Array<ArrayBuffer> }

/** A table of a large department is megabytes: what the platform brings for it is ten times as quick as what runs everywhere. */
const encode = (bytes: Uint8Array): string =>
  typeof Buffer === 'undefined' ? fromByteArray(bytes) : Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('base64')
const decode = (text: string): Uint8Array => (Uint8Array as Base64).fromBase64?.(text) ?? toByteArray(text)

const WORDS: Record<ColumnKind, string> = {
  u8: 'bytes',
  u16: 'unsigned integers of 2 bytes',
  i32: 'signed integers of 4 bytes',
  f64: 'IEEE 754 doubles, NaN for nothing',
}

/** A column of numbers as it travels: its bytes, little end first, in base64. */
export const Column = (kind: ColumnKind) => z.base64().meta({ description: `A column in base64: ${WORDS[kind]}, little end first` })

/** So many zeros. */
export const column = <K extends ColumnKind>(kind: K, length: number): ColumnOf<K> => new ARRAYS[kind](length) as ColumnOf<K>

/** Packs a column; null becomes NaN, which only doubles can hold. */
export function packColumn(kind: ColumnKind, values: ArrayLike<number | null>): string {
  const column = new ARRAYS[kind](values.length)
  for (let i = 0; i < values.length; i++) column[i] = values[i] ?? NaN
  return encode(new Uint8Array(column.buffer))
}

/** @throws Error where the text is no column of that kind */
export function unpackColumn<K extends ColumnKind>(kind: K, packed: string): ColumnOf<K> {
  const bytes = decode(packed)
  const Kind = ARRAYS[kind]
  if (bytes.byteLength % Kind.BYTES_PER_ELEMENT !== 0) throw new Error(`A column of ${WORDS[kind]} was cut off.`)
  return new Kind(bytes.buffer as ArrayBuffer, bytes.byteOffset, bytes.byteLength / Kind.BYTES_PER_ELEMENT) as ColumnOf<K>
}

/** Numbers of which many are alike, as they travel: those that differ, once each, and for every one its place among them; with more than 256 that differ, all of them. */
export const FewColumn = z.strictObject({ values: Column('f64'), places: Column('u8').nullable() })
export type FewColumn = z.infer<typeof FewColumn>

const MOST_PLACES = 256

/** Packs numbers of which many are alike. */
export function packFew(numbers: ArrayLike<number>): FewColumn {
  const places = new Map<number, number>()
  const own = new Uint8Array(numbers.length)
  let [last, place] = [numbers[0], 0]
  for (let i = 0; i < numbers.length; i++) {
    const number = numbers[i]!
    // Most are as the one before.
    if (i === 0 || !Object.is(number, last)) {
      const known = places.get(number)
      if (known === undefined && places.size === MOST_PLACES) return { values: packColumn('f64', numbers), places: null }
      if (known === undefined) places.set(number, places.size)
      place = known ?? places.size - 1
      last = number
    }
    own[i] = place
  }
  return { values: packColumn('f64', [...places.keys()]), places: packColumn('u8', own) }
}

/**
 * Unpacks them into a column of that kind.
 * @throws Error where it is no such column
 */
export function unpackFew<K extends ColumnKind>(kind: K, { values, places }: FewColumn): ColumnOf<K> {
  const differ = unpackColumn('f64', values)
  if (places === null) return (kind === 'f64' ? differ : ARRAYS[kind].from(differ)) as ColumnOf<K>
  const own = unpackColumn('u8', places)
  const numbers = column(kind, own.length)
  for (let i = 0; i < own.length; i++) {
    const value = differ[own[i]!]
    if (value === undefined) throw new Error('A column of numbers has a place that no number is at.')
    numbers[i] = value
  }
  return numbers
}
