import { hashKey } from '@tanstack/react-query'
import { ReadingBody, type DeskScript } from '#contract'
import { z } from 'zod'
import { keepFitting } from '../../../saving/keep-fitting'
import { vault } from '../../../saving/vault'

/** A reading that has not reached the server yet, kept in the browser so that neither a reload nor a lost connection takes it. */
const Backup = z.strictObject({
  version: z.number(),
  body: ReadingBody,
  /** What was done with it: kept going, or handed in. */
  as: z.enum(['draft', 'handed in']),
  /** What was not judged was left so on purpose. */
  gapMeant: z.boolean(),
  /** Others' readings had been seen, and it was changed all the same. */
  afterSeeing: z.boolean(),
  /** What was sent and not answered: the server may have it, or not. */
  unanswered: z.array(ReadingBody),
})
export type Backup = z.infer<typeof Backup>

export const sameReading = (a: ReadingBody, b: ReadingBody): boolean => hashKey([a]) === hashKey([b])

/** The reading as it is on the server, where it is not what this page knew. */
export const Current = ReadingBody.extend({ version: z.number().int(), state: z.enum(['draft', 'handed in']) })
export type Current = z.infer<typeof Current>

export const bodyOf = ({ judged, comment, criterionComments, notes }: ReadingBody): ReadingBody => ({
  judged,
  comment,
  criterionComments,
  notes,
})

/** What one begins with: what the server has, or what was kept here and did not reach it. */
export function begin(own: DeskScript['own'], kept: Backup | null): { body: ReadingBody; unsent: boolean; clash: Current | null } {
  const there = bodyOf(own)
  const nothingLeft = kept && sameReading(kept.body, there) && kept.as === 'draft'
  if (!kept || own.state === 'handed in' || nothingLeft) return { body: there, unsent: false, clash: null }
  const known = kept.version === own.version || kept.unanswered.some((sent) => sameReading(sent, there))
  return { body: kept.body, unsent: known, clash: known ? null : { ...there, version: own.version, state: 'draft' } }
}

interface Of {
  personId: string
  courseId: string
  assessmentId: string
  studentId: string
}

const PREFIX = 'level-table-reading'

/** The readings of a person in a course that have not reached the server yet. */
export function keptReadings(personId: string, courseId: string): { assessmentId: string; studentId: string }[] {
  const before = `${PREFIX} ${personId} ${courseId} `
  return vault.names().flatMap((key) => {
    const [assessmentId, studentId] = key.startsWith(before) ? key.slice(before.length).split(' ') : []
    return assessmentId && studentId ? [{ assessmentId, studentId }] : []
  })
}

/** Of one person alone: whoever reads the same script in the same browser must not find it. */
export function backupOf({ personId, courseId, assessmentId, studentId }: Of) {
  const key = `${PREFIX} ${personId} ${courseId} ${assessmentId} ${studentId}`
  return {
    name: key,
    read(): Backup | null {
      const kept = vault.get(key)
      if (kept === null) return null
      try {
        return Backup.parse(JSON.parse(kept))
      } catch {
        return null
      }
    },
    keep: (backup: Backup) => keepFitting(key, [backup], ([only]) => JSON.stringify(only)),
    drop: () => vault.drop(key),
  }
}
