import { hashKey } from '@tanstack/react-query'
import { ReadingBody } from '#contract'
import { z } from 'zod'
import { keepFitting } from '../keep-fitting'

/** A reading that has not reached the server yet, kept in the browser so that neither a reload nor a lost connection takes it. */
const Backup = z.strictObject({
  version: z.number(),
  body: ReadingBody,
  /** What was sent and not answered: the server may have it, or not. */
  unanswered: z.array(ReadingBody),
})
export type Backup = z.infer<typeof Backup>

export const sameReading = (a: ReadingBody, b: ReadingBody): boolean => hashKey([a]) === hashKey([b])

interface Of {
  personId: string
  courseId: string
  assessmentId: string
  studentId: string
}

/** Of one person alone: whoever reads the same script in the same browser must not find it. */
export function backupOf({ personId, courseId, assessmentId, studentId }: Of) {
  const key = `level-table-reading ${personId} ${courseId} ${assessmentId} ${studentId}`
  return {
    read(): Backup | null {
      const kept = localStorage.getItem(key)
      if (kept === null) return null
      try {
        return Backup.parse(JSON.parse(kept))
      } catch {
        return null
      }
    },
    keep: (backup: Backup) => keepFitting(key, [backup], ([only]) => JSON.stringify(only)),
    drop: () => localStorage.removeItem(key),
  }
}
