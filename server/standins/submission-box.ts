import { existsSync, readFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import { parse } from 'csv-parse/sync'
import { FileError } from '#core/exchange/delimited'
import { withoutGuard } from '#core/exchange/guard'
import { decodeText } from '#core/exchange/read-roll'
import { HttpProblem } from '../problem'
import type { StandInFaults } from './faults'

export interface Boxed {
  fileName: string
  candidate: string
  assessment: string
  cameAt: string
}

const LIST = 'deliveries.csv'
const MOST = 5000

/**
 * A stand-in for an institution's submission box: a folder a course, with the files that students handed in and a list of
 * them, `deliveries.csv` (file, candidate, assessment, came at). Nothing in it is ever changed by us.
 */
export function submissionBox(folder: string, faults: StandInFaults) {
  return {
    /** What its list says, and what in the list cannot be taken over. */
    list(courseId: string): { rows: Boxed[]; faults: string[] } {
      faults.reach(courseId, 'submission box')
      const file = join(folder, basename(courseId), LIST)
      if (!existsSync(file)) return { rows: [], faults: [] }
      const wrong: string[] = []
      const lines = orRefused(() => decodeText(readFileSync(file)))
        .replace(/^\uFEFF/, '')
        .split(/\r?\n/)
      if (lines.length > MOST) wrong.push(`The list has more than ${MOST} lines: what stands beyond waits until those before it are gone.`)
      const header = cellsOf(lines[0] ?? '') ?? []
      const at = ['file', 'candidate', 'assessment', 'came at'].map((name) => header.findIndex((h) => h.toLowerCase() === name))
      if (at.includes(-1))
        throw new HttpProblem(422, 'The list of the submission box needs the columns file, candidate, assessment and came at.')
      const rows = lines.slice(1, MOST).flatMap((text, i): Boxed[] => {
        const line = i + 2
        if (text.trim() === '') return []
        // One line that cannot be read is that line's, and not the end of the list.
        const cells = cellsOf(text)
        if (!cells) {
          wrong.push(`Line ${line} is not well formed: a quotation mark is not closed, or stands where none should be.`)
          return []
        }
        const [fileName, candidate, assessment, came] = at.map((c) => (cells[c] ?? '').trim()) as [string, string, string, string]
        const when = new Date(came)
        if (fileName.toLowerCase() === LIST) wrong.push(`Line ${line}: ${LIST} is this list itself.`)
        else if (fileName === '' || fileName !== basename(fileName) || fileName.startsWith('.'))
          wrong.push(`Line ${line}: “${fileName.slice(0, 60)}” is not the name of a file.`)
        else if (Number.isNaN(when.getTime())) wrong.push(`Line ${line}, ${fileName}: “${came.slice(0, 40)}” is not a date and time.`)
        else return [{ fileName, candidate: candidate.slice(0, 80), assessment: assessment.slice(0, 200), cameAt: when.toISOString() }]
        return []
      })
      return { rows, faults: wrong }
    },
    /** Where a file of it lies. */
    pathOf: (courseId: string, fileName: string): string => join(folder, basename(courseId), basename(fileName)),
  }
}
function orRefused<T>(work: () => T): T {
  try {
    return work()
  } catch (e) {
    if (e instanceof FileError) throw new HttpProblem(422, `The list of the submission box: ${e.message}`)
    throw e
  }
}

/** The cells of one line of the list; null where it is not well formed. */
function cellsOf(line: string): string[] | null {
  try {
    return ((parse(line, { trim: true, relax_column_count: true }) as string[][])[0] ?? []).map(withoutGuard)
  } catch {
    return null
  }
}

export type SubmissionBox = ReturnType<typeof submissionBox>
