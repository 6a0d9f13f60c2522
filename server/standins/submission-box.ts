import { basename, join } from 'node:path'
import { HttpProblem } from '../kernel/problem'
import { LIST, type BoxList } from '../workers/box-list'
import type { WorkerPool } from '../workers/pool'
import type { StandInFaults } from './faults'

/**
 * A stand-in for an institution's submission box: a folder a course, with the files that students handed in and a list of
 * them, `deliveries.csv` (file, candidate, assessment, came at). Nothing in it is ever changed by us.
 */
export function submissionBox(folder: string, faults: StandInFaults, pool: WorkerPool) {
  const pathOf = (courseId: string, fileName: string): string => join(folder, basename(courseId), basename(fileName))
  // Whoever asks while a course's list is being read waits for the same reading.
  const reading = new Map<string, Promise<BoxList | string>>()
  return {
    /** What its list says, and what in the list cannot be taken over. */
    async list(courseId: string): Promise<BoxList> {
      faults.reach(courseId, 'submission box')
      let list = reading.get(courseId)
      if (!list) {
        list = pool.readBoxList(pathOf(courseId, LIST), { personId: `box ${courseId}` }).finally(() => reading.delete(courseId))
        reading.set(courseId, list)
      }
      const read = await list
      if (typeof read === 'string') throw new HttpProblem(422, read)
      return read
    },
    /** Where a file of it lies. */
    pathOf,
  }
}

export type SubmissionBox = ReturnType<typeof submissionBox>
