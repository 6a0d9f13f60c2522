import { descending, sort } from 'd3-array'
import { countedMark } from '../issues/counted-mark'
import { issuedMark, type IssueContent } from '../issues/issue'
import { markInRoster } from './roster-mark'
import { ORG, putFrame, rosterWriter, type RosterCourse } from './roster-files'

/** How an issue is told to others who know the course by their own ids. */
export interface RosterOfIssue extends Pick<RosterCourse, 'firstDay' | 'lastDay'> {
  courseId: string
  /** When it was frozen. */
  at: string
  sectionIdOf: (name: string) => string
  /** Student → the number by which others know them. */
  numberOf: ReadonlyMap<string, string>
  /** The day an assessment was due, by its title. */
  due: (title: string) => string
}

/** The line item that carries the course percent and the grade. */
const COURSE = 'course'

/**
 * Confirmed results as OneRoster 1.2 CSV, bulk, zipped: components as categories with their weights, what was set for each section as line
 * items, marks as results, and one line item a section for the course percent with the grade as its text score,
 * on a score scale of the class: each grade with the rounded percent at which it begins.
 * Source: 1EdTech OneRoster 1.2, CSV binding.
 */
export function oneRosterResults(content: IssueContent, of: RosterOfIssue): Uint8Array {
  const { put, pack } = rosterWriter([
    'academicSessions.csv',
    'orgs.csv',
    'categories.csv',
    'lineItems.csv',
    'results.csv',
    'scoreScales.csv',
    'lineItemScoreScales.csv',
  ])
  const { assessments = [], boundaries, components, policy, results, course } = content
  const scale = scoreScaleValue(boundaries)
  const { set } = putFrame(put, { ...course, ...of, id: of.courseId })
  const scoreDate = of.at.slice(0, 10)
  const categoryOf = (component: string) => `${of.courseId}-category-${components.findIndex((c) => c.title === component)}`
  components.forEach((c) =>
    put('categories.csv', { sourcedId: categoryOf(c.title), title: c.title, weight: c.weight === null ? '' : String(c.weight) }),
  )
  const whole = `${of.courseId}-category-${COURSE}`
  put('categories.csv', { sourcedId: whole, title: 'Course result', weight: '' })
  const written = new Set<string>()
  const item = (part: number | typeof COURSE, section: string): string => {
    const classSourcedId = of.sectionIdOf(section)
    const sourcedId = `${of.courseId}-${part}-${classSourcedId}`
    if (written.has(sourcedId)) return sourcedId
    written.add(sourcedId)
    const a = part === COURSE ? null : assessments[part]!
    const due = a ? of.due(a.title) : of.lastDay
    put('lineItems.csv', {
      sourcedId,
      title: a?.title ?? `${course.code} ${course.title}`,
      ...set(due),
      classSourcedId,
      categorySourcedId: a ? categoryOf(a.component) : whole,
      resultValueMin: '0',
      resultValueMax: String(a?.outOf ?? 100),
    })
    if (part === COURSE && scale !== '') {
      const scoreScaleSourcedId = `${of.courseId}-grades-${classSourcedId}`
      put('scoreScales.csv', {
        sourcedId: scoreScaleSourcedId,
        title: `Grades of ${course.code}`,
        type: 'percent',
        orgSourcedId: ORG,
        courseSourcedId: of.courseId,
        classSourcedId,
        scoreScaleValue: scale,
      })
      put('lineItemScoreScales.csv', { sourcedId: `${sourcedId}-scale`, lineItemSourcedId: sourcedId, scoreScaleSourcedId })
    }
    return sourcedId
  }
  for (const r of results) {
    const studentSourcedId = of.numberOf.get(r.studentId) ?? r.studentId
    const classSourcedId = of.sectionIdOf(r.section)
    const result = (part: number | typeof COURSE, row: Record<string, string>) =>
      put('results.csv', {
        sourcedId: `${item(part, r.section)}-${r.studentId}`,
        lineItemSourcedId: item(part, r.section),
        studentSourcedId,
        classSourcedId,
        scoreDate,
        ...row,
      })
    r.marks?.forEach((cell, i) => {
      const m = issuedMark(cell)
      if (m && (m.mark !== null || m.status !== 'in'))
        result(i, markInRoster({ ...m, counted: countedMark(m, assessments[i]!.outOf, policy) }))
    })
    result(COURSE, {
      scoreStatus: r.grade === null ? 'partially graded' : 'fully graded',
      score: r.rounded === null ? '' : String(r.rounded),
      textScore: r.grade ?? '',
      incomplete: String(r.pending > 0),
    })
  }
  return pack()
}

/** Pairs of label and percent, the highest first. A comma parts one pair from the next, so none stands in a label. */
const scoreScaleValue = (boundaries: IssueContent['boundaries']): string =>
  sort(boundaries, (a, b) => descending(a.from, b.from))
    .map((b) => `{${b.grade.replace(/[{},:\s]+/g, ' ').trim()}:${b.from}}`)
    .join(',')
