import { FileError } from '../delimited'
import { unzipBounded } from '../unzip'
import { archive } from './archive'
import { competencies } from './competencies'
import { dataPackage } from './data-package'
import { document } from './document'
import type { Files, Format } from './format'
import { oldWorkbook } from './old-workbook'
import { pdf } from './pdf'
import { roster } from './roster'
import { rosterResults } from './roster-results'
import { text } from './text'
import { workbook } from './workbook'

/** Every kind of file, in the order in which a file is asked whether it is one; what is none of them is text. */
const FORMATS = {
  pdf,
  'old workbook': oldWorkbook,
  competencies,
  'roster results': rosterResults,
  roster,
  'data package': dataPackage,
  workbook,
  document,
  archive,
  text,
} satisfies Record<string, Format>
export type FormatName = keyof typeof FORMATS
const formatOf = (name: FormatName): Format => FORMATS[name]
const NAMES = Object.keys(FORMATS) as FormatName[]

/** A file, told by its content and not by its name; archives are unpacked. */
export interface Opened {
  format: FormatName
  bytes: Uint8Array
  files: Files
}

const NO_FILES: Files = new Map()

/**
 * Tells what a file is.
 * @param takes the kinds that are read where it was brought
 * @param told is told what is being done, for progress; `most`: bytes that may come out of an archive; `unzip`: how it is unpacked, in
 * memory where nothing is said
 * @throws FileError for a file that is empty, damaged or of another kind, saying what to do with it
 */
export function openFile<F extends FormatName>(
  bytes: Uint8Array,
  takes: readonly F[],
  {
    told,
    most,
    unzip = unzipBounded,
  }: { told?: (doing: string) => void; most?: number; unzip?: (bytes: Uint8Array, most?: number) => Files } = {},
): Opened & { format: F } {
  if (bytes.length === 0) throw new FileError('The file is empty.')
  const begun = NAMES.find((f) => formatOf(f).begins?.(bytes)) ?? 'text'
  if (begun === 'archive') told?.('unpacking')
  const files = begun === 'archive' ? unzip(bytes, most) : NO_FILES
  // A whole roster holds students and results: it is what is wanted of it.
  const format = (begun === 'archive' && [...takes, ...NAMES].find((f) => formatOf(f).isIn?.(files))) || begun
  if (!isOneOf(takes, format)) throw new FileError(refusal(format, takes))
  return { format, bytes, files }
}

const isOneOf = <F extends FormatName>(takes: readonly F[], format: FormatName): format is F =>
  (takes as readonly FormatName[]).includes(format)

function refusal(format: FormatName, takes: readonly FormatName[]): string {
  const wanted = new Intl.ListFormat('en', { type: 'disjunction' }).format(takes.map((f) => formatOf(f).called))
  return `This is ${formatOf(format).called}. What is read here: ${wanted}. ${formatOf(format).instead}`
}
