import { setImmediate } from 'node:timers/promises'
import { criteriaOf, type Picks } from '#core/scales'
import { packJudged, routes, type JudgedInColumns } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { AssessmentRow } from '../../kernel/course/rows'
import { standardsOf } from '../../kernel/standards/judge'
import { libraryQueries } from '../../kernel/standards/queries'

/** Readings between which others are answered. */
const AT_ONCE = 2000

/** Readings criterion by criterion, for those who compare markers and criteria. */
export function judgedRoutes(handle: Handle, db: Db): void {
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const standardOf = standardsOf(libraryQueries(db))
  const readings = db
    .prepare<[string], [string, string, number, string]>(
      `SELECT s.student_id, r.marker_id, coalesce(c.mark, r.mark), coalesce(c.picks, r.picks) FROM script s JOIN reading r ON r.script_id = s.id
       LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version
       WHERE s.assessment_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`,
    )
    .raw()

  handle(routes.judged, async ({ params: { courseId, assessmentId } }): Promise<JudgedInColumns> => {
    const row = assessment.get(assessmentId, courseId)
    if (!row || row.away) throw new HttpProblem(404, 'There is no such assessment.')
    const criteria = criteriaOf(standardOf(row.standard_id))
    const [students, markers] = [new Places(), new Places()]
    const [student, marker, mark]: number[][] = [[], [], []]
    const points = criteria.map((): number[] => [])
    let read = 0
    for (const [studentId, markerId, given, text] of readings.all(assessmentId)) {
      const picks = JSON.parse(text) as Picks
      student!.push(students.of(studentId))
      marker!.push(markers.of(markerId))
      mark!.push(given)
      criteria.forEach((c, k) => points[k]!.push(picks[c.id] ?? NaN))
      if (++read % AT_ONCE === 0) await setImmediate()
    }
    return packJudged({
      assessmentId,
      criteria,
      students: students.ids,
      markers: markers.ids,
      student: student!,
      marker: marker!,
      mark: mark!,
      points,
    })
  })
}

/** Ids in the order they come, each once. */
class Places {
  readonly ids: string[] = []
  private readonly at = new Map<string, number>()

  of(id: string): number {
    const known = this.at.get(id)
    if (known !== undefined) return known
    this.at.set(id, this.ids.length)
    return this.ids.push(id) - 1
  }
}
