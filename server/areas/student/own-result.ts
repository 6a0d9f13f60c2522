import { changedInWords, resultInWords, type IssueContent, type IssuedResult } from '#core/issues'
import type { OwnWork } from '#contract'
import type { Clock } from '../../kernel/clock'
import { issuesOf } from '../../kernel/course/issues'
import type { Db } from '../../kernel/db/open'

interface Row {
  result: string
  policy: string
  boundaries: string
  components: string
  assessments: string | null
  conditions: string | null
}
type Own = Pick<IssueContent, 'policy' | 'boundaries' | 'components' | 'assessments' | 'conditions'> & { result: IssuedResult }

/** A student's confirmed result with how it came about, and what was out before it. */
export function ownResults(db: Db, clock: Clock) {
  const issues = issuesOf(db)
  const release = db.prepare<[string, string], string>('SELECT on_day FROM result_release WHERE course_id = ? AND section_id = ?').pluck()
  // One student's part alone is read out of the frozen content.
  const frozen = db.prepare<[{ course: string; number: number; student: string }], Row>(
    `SELECT r.value AS result, i.content -> '$.policy' AS policy, i.content -> '$.boundaries' AS boundaries, i.content -> '$.components' AS components,
       i.content -> '$.assessments' AS assessments, i.content -> '$.conditions' AS conditions
     FROM issue i, json_each(i.content, '$.results') r
     WHERE i.course_id = @course AND i.number = @number AND json_extract(r.value, '$.studentId') = @student`,
  )
  function own(courseId: string, number: number, studentId: string): Own | null {
    const row = frozen.get({ course: courseId, number, student: studentId })
    if (!row) return null
    const read = <T>(text: string) => JSON.parse(text) as T
    return {
      result: read(row.result),
      policy: read(row.policy),
      boundaries: read(row.boundaries),
      components: read(row.components),
      ...(row.assessments && { assessments: read(row.assessments) }),
      ...(row.conditions && { conditions: read(row.conditions) }),
    }
  }
  const figures = (issue: number, { result: { rounded, grade } }: Own) => ({ issue, percent: rounded, grade })

  return (courseId: string, studentId: string, sectionId: string): Pick<OwnWork, 'result' | 'earlier'> => {
    const onDay = release.get(courseId, sectionId)
    if (onDay === undefined || onDay > clock.today()) return { result: null, earlier: [] }
    const heads = issues.heads(courseId)
    const counts = heads.filter((h) => h.waitsFor.length === 0 && h.objections.every((o) => o.takenBack !== null))
    const now = counts.findIndex((h) => h.inForce)
    if (now < 0) return { result: null, earlier: [] }
    const current = own(courseId, counts[now]!.number, studentId)
    let later = current
    const earlier: OwnWork['earlier'] = []
    for (let i = now + 1; i < counts.length; i++) {
      const { number } = counts[i]!
      // What was replaced before results came out was nobody's to see.
      if (clock.dayOf(counts[i - 1]!.at) < onDay) break
      const then = own(courseId, number, studentId)
      if (then) earlier.push({ ...figures(number, then), changed: later ? changedInWords(then, later) : [] })
      later = then
    }
    if (!current) return { result: null, earlier }
    const { result } = current
    return { result: { ...figures(counts[now]!.number, current), pending: result.pending, ...resultInWords(current, result) }, earlier }
  }
}
