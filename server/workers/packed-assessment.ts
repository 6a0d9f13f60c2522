import { openFile } from '#core/exchange/formats'
import type { LibraryFileRead } from '../kernel/standards/library-file'
import { packedAssessment, readPackedAssessment } from '../areas/plan/assessment-package'
import { ENTRY } from '../kernel/standards/taken-out'
import { caseRead } from './library-file'
import { reading } from './reading'

export interface AssessmentToPack {
  /** The database. */
  file: string
  courseId: string
  assessmentId: string
}

/** An assessment as a data package. @throws FileError where there is none */
export const packAssessment = ({ file, courseId, assessmentId }: AssessmentToPack): Uint8Array =>
  reading(file, (db) => packedAssessment(db, courseId, assessmentId))

/** What a data package of an assessment holds, with what it is marked by. */
export type AssessmentRead = ReturnType<typeof readPackedAssessment> & { standard: LibraryFileRead | null }

/** @throws FileError where it is no data package of an assessment */
export function assessmentRead(bytes: Uint8Array): AssessmentRead {
  const { files } = openFile(bytes, ['data package'])
  const entry = files.get(ENTRY)
  return { ...readPackedAssessment(files), standard: entry ? caseRead(entry) : null }
}
