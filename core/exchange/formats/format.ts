/** The files of an unpacked archive, by their paths. */
export type Files = ReadonlyMap<string, Uint8Array>

/** A kind of file that people bring, whether or not we read it. */
export interface Format {
  /** In a sentence: “a workbook (XLSX)”. */
  called: string
  /** Whether a file is one, by its bytes. */
  begins?: (bytes: Uint8Array) => boolean
  /** Whether an archive is one, by what is in it. */
  isIn?: (files: Files) => boolean
  /** What to do with one that is brought where it is not read. */
  instead: string
}

export const startsWith =
  (...head: number[]) =>
  (bytes: Uint8Array): boolean =>
    head.every((b, i) => bytes[i] === b)
