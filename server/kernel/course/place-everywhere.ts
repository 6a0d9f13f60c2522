import type { Db } from '../db/open'

/** Sets an assessment for all sections of its course, without days. */
export function placeEverywhere(db: Db): (assessmentId: string, courseId: string) => void {
  const place = db.prepare('INSERT INTO placement (assessment_id, section_id) SELECT ?, id FROM section WHERE course_id = ?')
  return (assessmentId, courseId) => void place.run(assessmentId, courseId)
}
