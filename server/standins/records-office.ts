import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import type { RefusedResult, SentResult } from '#contract'
import { HttpProblem } from '../kernel/problem'
import type { StandInFaults } from './faults'

/** Whom the office knows, by number, and the grades that it enters. */
interface Register {
  students: Record<string, 'enrolled' | 'withdrawn'>
  grades: string[]
}

interface Answer {
  receipt: string
  refused: RefusedResult[]
  /** Numbers that it took out again. */
  withdrawn?: string[]
}

/** The office's own file of whom it knows; where there is none it takes whoever has a number. */
export const REGISTER = 'register.json'

/**
 * A stand-in for an institution's records office: it enters results, answers with a receipt, and refuses rows of people it does not know
 * or grades it does not have. What it was sent it keeps by its key, so that the same is not entered twice.
 */
export function recordsOffice(folder: string, faults: StandInFaults) {
  const registerOf = (courseId: string): Register | null => {
    const file = join(folder, basename(courseId), REGISTER)
    return existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Register) : null
  }
  return {
    /**
     * @param key of the sending: answered before, the same answer is given again
     * @throws HttpProblem 503 where its answer is lost; it may have entered them all the same
     */
    enter(courseId: string, key: string, rows: readonly SentResult[]): Answer {
      const kept = join(folder, basename(courseId), `${basename(key)}.json`)
      let answer: Answer
      if (existsSync(kept)) answer = JSON.parse(readFileSync(kept, 'utf8')) as Answer
      else {
        const register = registerOf(courseId)
        const refused = rows.flatMap((r): RefusedResult[] => {
          const why = whyNot(register, r)
          return why === null ? [] : [{ studentId: r.studentId, number: r.number, why }]
        })
        const sum = createHash('sha256')
          .update(`${key} ${JSON.stringify(rows)}`)
          .digest('hex')
          .slice(0, 8)
          .toUpperCase()
        answer = { receipt: `RO-${sum}-${rows.length - refused.length}`, refused }
        mkdirSync(join(folder, basename(courseId)), { recursive: true, mode: 0o700 })
        write(kept, answer)
      }
      if (faults.fails(courseId, 'records office'))
        throw new HttpProblem(
          503,
          'The records office did not answer, and may have entered the results or not. Ask again: sent under the same key, nothing is entered twice.',
        )
      return answer
    },
    /**
     * Takes a result out again that it entered; twice is once.
     * @throws HttpProblem 503 where its answer is lost
     */
    withdraw(courseId: string, key: string, number: string): void {
      const kept = join(folder, basename(courseId), `${basename(key)}.json`)
      const answer = JSON.parse(readFileSync(kept, 'utf8')) as Answer
      write(kept, { ...answer, withdrawn: [...new Set([...(answer.withdrawn ?? []), number])] })
      if (faults.fails(courseId, 'records office'))
        throw new HttpProblem(503, 'The records office did not answer, and may have taken it out or not. Ask again: twice is once.')
    },
  }
}

/** Whole or not at all: half an answer would be none. */
function write(file: string, answer: Answer): void {
  writeFileSync(`${file}.part`, JSON.stringify(answer), { mode: 0o600 })
  renameSync(`${file}.part`, file)
}

export type RecordsOffice = ReturnType<typeof recordsOffice>

function whyNot(register: Register | null, { number, grade }: SentResult): string | null {
  if (number === '') return 'There is no number by which the office knows this student.'
  if (!register) return null
  const known = register.students[number]
  if (known === undefined) return `The office knows nobody by the number ${number}.`
  if (known === 'withdrawn') return `${number} has withdrawn from the institution.`
  return register.grades.includes(grade) ? null : `${grade} is no grade of the office's.`
}
