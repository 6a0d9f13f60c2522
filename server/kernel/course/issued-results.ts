import type { Frozen, OwnIssued } from '#core/issues'
import { orProblem } from '../or-problem'
import { keepLatest } from '../keep-latest'

/** What an issue holds for each of its students, without their names; JSON. */
export interface IssueParts {
  frozen: string
  studentIds: string[]
  results: string[]
}

export type IssuedToOne = Frozen & { result: OwnIssued }

/** Issues that are kept taken apart: when results come out, everybody looks at the same few. */
const MOST = 4

/**
 * What an issue holds for one student. It is many megabytes for all of them, so a worker takes it apart by student, once.
 * @param partsOf takes an issue apart, in a worker; a sentence where it could not
 */
export function issuedResults(partsOf: (courseId: string, number: number) => Promise<IssueParts | string>) {
  const kept = new Map<string, Promise<{ frozen: Frozen; ownOf: Map<string, string> }>>()

  async function takenApart(courseId: string, number: number) {
    // Read for whoever asks first, and for all who ask meanwhile.
    const parts = orProblem<IssueParts>(await partsOf(courseId, number))
    return { frozen: JSON.parse(parts.frozen) as Frozen, ownOf: new Map(parts.studentIds.map((id, i) => [id, parts.results[i]!])) }
  }

  /** @param hash of the issue, which is another where a course with the same number was brought in anew */
  return async (courseId: string, { number, hash }: { number: number; hash: string }, studentId: string): Promise<IssuedToOne | null> => {
    const key = `${courseId} ${number} ${hash}`
    const read = kept.get(key) ?? takenApart(courseId, number)
    keepLatest(kept, key, read, MOST)
    read.catch(() => kept.delete(key))
    const { frozen, ownOf } = await read
    const result = ownOf.get(studentId)
    return result === undefined ? null : { ...frozen, result: JSON.parse(result) as OwnIssued }
  }
}

export type IssuedResults = ReturnType<typeof issuedResults>
