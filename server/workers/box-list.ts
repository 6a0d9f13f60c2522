import { readFile, stat } from 'node:fs/promises'
import { basename } from 'node:path'
import { parse } from 'csv-parse/sync'
import { FileError } from '#core/exchange/delimited'
import { withoutGuard } from '#core/exchange/guard'
import { decodeUnicode } from '#core/exchange/decode-text'

export interface Boxed {
  fileName: string
  candidate: string
  assessment: string
  cameAt: string
}

export interface BoxList {
  rows: Boxed[]
  /** What in the list cannot be taken over, each a sentence. */
  faults: string[]
}

export const LIST = 'deliveries.csv'
const MOST = 5000
const LARGEST = 5 * 2 ** 20

/** What the list of the submission box says; a folder without one holds nothing. @returns a sentence where it cannot be read at all */
export async function readBoxList({ path }: { path: string }): Promise<BoxList | string> {
  const found = await stat(path).catch(() => null)
  if (!found?.isFile()) return { rows: [], faults: [] }
  if (found.size > LARGEST) return 'The list of the submission box is over 5 MB: take out what was collected, and collect again.'
  let text: string
  try {
    text = decodeUnicode(await readFile(path))
  } catch (e) {
    if (e instanceof FileError) return `The list of the submission box: ${e.message}`
    throw e
  }
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/)
  const faults: string[] = []
  if (lines.length > MOST) faults.push(`The list has more than ${MOST} lines: what stands beyond waits until those before it are gone.`)
  const header = cellsOf(lines[0] ?? '') ?? []
  const at = ['file', 'candidate', 'assessment', 'came at'].map((name) => header.findIndex((h) => h.toLowerCase() === name))
  if (at.includes(-1)) return 'The list of the submission box needs the columns file, candidate, assessment and came at.'
  const rows = lines.slice(1, MOST).flatMap((line, i): Boxed[] => {
    if (line.trim() === '') return []
    const boxed = boxedOf(line, at, i + 2)
    if (typeof boxed !== 'string') return [boxed]
    faults.push(boxed)
    return []
  })
  return { rows, faults }
}

/** What one line says. A line that cannot be read is that line's fault, a sentence, and not the end of the list. */
function boxedOf(text: string, at: readonly number[], line: number): Boxed | string {
  const cells = cellsOf(text)
  if (!cells) return `Line ${line} is not well formed: a quotation mark is not closed, or stands where none should be.`
  const [fileName, candidate, assessment, came] = at.map((c) => (cells[c] ?? '').trim()) as [string, string, string, string]
  const when = new Date(came)
  if (fileName.toLowerCase() === LIST) return `Line ${line}: ${LIST} is this list itself.`
  if (fileName === '' || fileName !== basename(fileName) || fileName.startsWith('.'))
    return `Line ${line}: “${fileName.slice(0, 60)}” is not the name of a file.`
  if (Number.isNaN(when.getTime())) return `Line ${line}, ${fileName}: “${came.slice(0, 40)}” is not a date and time.`
  return { fileName, candidate: candidate.slice(0, 80), assessment: assessment.slice(0, 200), cameAt: when.toISOString() }
}

/** The cells of one line of the list; null where it is not well formed. */
function cellsOf(line: string): string[] | null {
  try {
    return ((parse(line, { trim: true, relax_column_count: true }) as string[][])[0] ?? []).map(withoutGuard)
  } catch {
    return null
  }
}
