import { existsSync, readFileSync, statSync } from 'node:fs'
import { basename, join } from 'node:path'
import { FileError, readDelimited } from '#core/exchange/delimited'
import { decodeText } from '#core/exchange/read-roll'
import { HttpProblem } from '../problem'
import type { StandInFaults } from './faults'

export interface Boxed {
  fileName: string
  candidate: string
  assessment: string
  cameAt: string
}

const LARGEST = 20 * 2 ** 20

/**
 * A stand-in for an institution's submission box: a folder a course, with the files that students handed in and a list of
 * them, `deliveries.csv` (file, candidate, assessment, came at). Nothing in it is ever changed by us.
 */
export function submissionBox(folder: string, faults: StandInFaults) {
  return {
    /** What its list says, and what in the list cannot be taken over. */
    list(courseId: string): { rows: Boxed[]; faults: string[] } {
      faults.reach('submission box')
      const file = join(folder, basename(courseId), 'deliveries.csv')
      if (!existsSync(file)) return { rows: [], faults: [] }
      const wrong: string[] = []
      let table
      try {
        table = readDelimited(decodeText(readFileSync(file)))
      } catch (e) {
        if (e instanceof FileError) throw new HttpProblem(422, `The list of the submission box: ${e.message}`)
        throw e
      }
      const at = ['file', 'candidate', 'assessment', 'came at'].map((name) => table.header.findIndex((h) => h.toLowerCase() === name))
      if (at.includes(-1))
        throw new HttpProblem(422, 'The list of the submission box needs the columns file, candidate, assessment and came at.')
      const rows = table.rows.flatMap(({ cells, line }): Boxed[] => {
        const [fileName, candidate, assessment, came] = at.map((i) => (cells[i] ?? '').trim()) as [string, string, string, string]
        const when = new Date(came)
        if (fileName === '' || fileName !== basename(fileName) || fileName.startsWith('.'))
          wrong.push(`Line ${line}: “${fileName.slice(0, 60)}” is not the name of a file.`)
        else if (Number.isNaN(when.getTime())) wrong.push(`Line ${line}, ${fileName}: “${came.slice(0, 40)}” is not a date and time.`)
        else return [{ fileName, candidate: candidate.slice(0, 80), assessment: assessment.slice(0, 200), cameAt: when.toISOString() }]
        return []
      })
      return { rows, faults: wrong }
    },
    /** A file's bytes; a sentence where it cannot be taken over. */
    open(courseId: string, fileName: string): Buffer | string {
      const file = join(folder, basename(courseId), basename(fileName))
      if (!existsSync(file)) return `${fileName} is in the list and not in the box.`
      if (statSync(file).size > LARGEST) return `${fileName} is over 20 MB.`
      return readFileSync(file)
    },
  }
}
export type SubmissionBox = ReturnType<typeof submissionBox>
