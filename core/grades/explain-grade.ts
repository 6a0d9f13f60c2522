import { CourseError, partOf, STATUSES, type Course, type Status, type StudentResult } from './course'
import { gradeOne, PENDING, SCORED } from './grade-course'
import { methodOf } from '../rescale/methods'
import { packCourse } from './pack'
import { decimalsInWords, descending, gradeIndex } from './rounding'
import { afterLate } from './scoring'
import { sentenceWith } from './sentence-decimals'
import { written, type DecimalSign } from './written'

/** One assessment's part in a grade. */
export interface ExplainedItem {
  assessmentId: string
  mark: number | null
  outOf: number
  status: Status
  daysLate: number
  state: 'scored' | 'pending' | 'not applying'
  /** Fraction that counted, after policy and late rule; null unless scored. */
  fraction: number | null
  /** Fraction before the late rule, where that took something. */
  beforeLate: number | null
  bonus: boolean
  dropped: boolean
  /** Weight inside the component: worth, or 1 where all carry the same. */
  inside: number
}

export interface ExplainedComponent {
  componentId: string
  weight: number
  bonus: boolean
  combine: 'byWorth' | 'equally'
  percent: number | null
  /** Share of the course percent among the components that have one; null for a bonus or one without a percent. */
  share: number | null
  /** Points of the course percent that came from it. */
  points: number | null
  items: ExplainedItem[]
}

export interface GradeStep {
  kind: 'assessment' | 'component' | 'course' | 'adjustment' | 'rounding' | 'grade' | 'condition'
  /** Assessment or component id where the step is about one. */
  id: string | null
  text: string
  value: number | null
}

export interface ExplainedGrade extends StudentResult {
  chain: ExplainedComponent[]
  /** The chain in sentences, from raw marks to grade. */
  steps: GradeStep[]
}

/**
 * Why a student has their grade: the figures of `gradeCourse` with the working they came from.
 * @param titles names for assessments and components in the sentences; ids are used where one is missing
 * @param decimal how numbers are written in the sentences
 * @throws CourseError for an unknown student or a course that contradicts itself
 */
export function explainGrade(
  course: Course,
  studentId: string,
  titles: Record<string, string> = {},
  decimal: DecimalSign = 'point',
): ExplainedGrade {
  const packed = packCourse(course)
  const student = packed.studentIds.indexOf(studentId)
  if (student < 0) throw new CourseError(`Student ${studentId} is not on the roll.`, 'studentId')
  const { result, grader, ...own } = gradeOne(packed, student)
  const components = own.components()
  const droppedIds = new Set(components.flatMap((c) => c.dropped))
  const base = student * packed.assessmentIds.length

  const ordinaryWeight = packed.components.reduce(
    (sum, c, i) => (c.bonus || Number.isNaN(grader.componentPercent[i]!) ? sum : sum + c.weight),
    0,
  )
  const chain = course.components.map((component, order): ExplainedComponent => {
    const at = packed.components.findIndex((c) => c.planOrder === order)
    const c = packed.components[at]!
    const percent = components[order]!.percent
    const items: ExplainedItem[] = []
    for (let a = c.start; a < c.end; a++) {
      const cell = base + a
      const mark = packed.mark[cell]!
      const status = STATUSES[packed.status[cell]!]!
      const daysLate = packed.daysLate?.[cell] ?? 0
      const scored = grader.state[a] === SCORED
      const plain = mark / packed.outOf[a]!
      const tookFromLate = scored && status === 'late' && afterLate(plain, daysLate, packed.policy.late) !== plain
      items.push({
        assessmentId: packed.assessmentIds[a]!,
        mark: Number.isNaN(mark) ? null : mark,
        outOf: packed.outOf[a]!,
        status,
        daysLate,
        state: scored ? 'scored' : grader.state[a] === PENDING ? 'pending' : 'not applying',
        fraction: scored ? grader.fraction[a]! : null,
        beforeLate: tookFromLate ? plain : null,
        bonus: !!packed.bonus[a],
        dropped: droppedIds.has(packed.assessmentIds[a]!),
        inside: packed.inside[a]!,
      })
    }
    const rank = new Map(course.assessments.map((a, i) => [a.id, i]))
    items.sort((x, y) => rank.get(x.assessmentId)! - rank.get(y.assessmentId)!)
    const share = percent === null || component.bonus || ordinaryWeight === 0 ? null : component.weight / ordinaryWeight
    return {
      componentId: component.id,
      weight: component.weight,
      bonus: component.bonus,
      combine: component.combine,
      percent,
      share,
      points: percent === null ? null : component.bonus ? (component.weight * percent) / 100 : share === null ? null : share * percent,
      items,
    }
  })
  const explained = { ...result, chain }
  const names = [...Object.values(titles), ...course.boundaries.map((b) => b.grade)]
  const steps = sentences(explained, course, titles).map((s) => ({ ...s, text: sentenceWith(decimal, s.text, names) }))
  return { ...explained, steps }
}

/** What rescales the course percent names no marker. */
const NOBODY = { marker: (id: string) => id }

/** At most three decimals, without trailing zeros. */
const plain = (x: number) => written(x, 'point', { most: 3 })
const percentOf = (fraction: number) => `${plain(fraction * 100)}%`

function sentences(g: Omit<ExplainedGrade, 'steps'>, course: Course, titles: Record<string, string>): GradeStep[] {
  const name = (id: string) => titles[id] ?? id
  const steps: GradeStep[] = []
  for (const c of g.chain) {
    for (const i of c.items)
      steps.push({
        kind: 'assessment',
        id: i.assessmentId,
        text: `${name(i.assessmentId)}: ${itemSentence(i)}`,
        value: i.fraction === null ? null : i.fraction * 100,
      })
    const how = c.combine === 'equally' ? 'all counting the same' : 'by worth'
    steps.push({
      kind: 'component',
      id: c.componentId,
      text:
        c.percent === null
          ? `${name(c.componentId)}: nothing scored yet, so it is left out of the average`
          : `${name(c.componentId)}: ${plain(c.percent)}%, ${how}; ${
              c.bonus
                ? `a bonus of ${plain(c.points!)} points`
                : `carries ${percentOf(c.share ?? 0)}, which is ${plain(c.points ?? 0)} points`
            }`,
      value: c.percent,
    })
  }
  steps.push({
    kind: 'course',
    id: null,
    text:
      g.final !== null
        ? `Course: ${plain(g.final)}%`
        : g.soFar === null
          ? 'Course: nothing scored yet'
          : `Course: ${plain(g.soFar)}% so far, between ${plain(g.lowest ?? 0)}% and ${plain(g.highest ?? 100)}% with ${g.pending} still pending`,
    value: g.final ?? g.soFar,
  })
  if (g.final !== null && g.adjusted !== null) {
    const { adjustments = [] } = course
    adjustments.forEach(({ method, neverLower }, i) => {
      const last = i === adjustments.length - 1
      steps.push({
        kind: 'adjustment',
        id: null,
        text: `Rescaled: ${methodOf(method.kind).done(method, NOBODY)}${neverLower ? ', never lower' : ''}${last ? `: ${plain(g.adjusted!)}%` : ''}`,
        value: last ? g.adjusted : null,
      })
    })
  }
  if (g.final !== null && course.policy.rounding)
    steps.push({
      kind: 'rounding',
      id: null,
      text: `Rounded half up to ${decimalsInWords(course.policy.rounding.decimals)}: ${g.rounded}`,
      value: g.rounded,
    })
  if (g.final !== null) {
    const sorted = descending(course.boundaries)
    const given = sorted[gradeIndex(g.rounded!, sorted)]
    steps.push({
      kind: 'grade',
      id: null,
      text: given ? `Grade: ${given.grade}, which begins at ${given.from}` : 'Grade: below every boundary',
      value: g.rounded,
    })
    for (const i of g.heldBy) {
      const asked = course.conditions![i]!
      const { least, atMost } = asked
      const on = partOf(asked)
      steps.push({
        kind: 'condition',
        id: on,
        text: `${name(on)} asks for ${plain(least)}%, and there are ${plain(percentIn(g, on)!)}%: at most ${atMost}`,
        value: percentIn(g, on),
      })
    }
    if (g.heldBy.length > 0) steps.push({ kind: 'grade', id: null, text: `Grade: ${g.grade}, held by what is asked`, value: g.rounded })
  }
  return steps
}

/** What somebody has in a component, or in an assessment, in percent. */
function percentIn(g: Pick<ExplainedGrade, 'chain'>, on: string): number | null {
  const component = g.chain.find((c) => c.componentId === on)
  if (component) return component.percent
  const item = g.chain.flatMap((c) => c.items).find((i) => i.assessmentId === on)
  return item?.fraction == null ? null : item.fraction * 100
}

function itemSentence(i: ExplainedItem): string {
  if (i.state === 'not applying')
    return i.status === 'in' || i.status === 'late' ? 'not set for this section' : `${i.status}, so it does not apply`
  if (i.state === 'pending') return i.status === 'in' ? 'no mark yet' : `${i.status}, so it is pending`
  const tail = `${i.bonus ? ', a bonus' : ''}${i.dropped ? ', dropped' : ''}`
  if (i.status === 'missing' || i.status === 'absent') return `${i.status}, counted as ${percentOf(i.fraction!)}${tail}`
  const late =
    i.beforeLate === null
      ? ''
      : `, ${i.daysLate} ${i.daysLate === 1 ? 'day' : 'days'} late: ${percentOf(i.beforeLate)} becomes ${percentOf(i.fraction!)}`
  return `${plain(i.mark!)} of ${plain(i.outOf)} is ${percentOf(i.mark! / i.outOf)}${late}${tail}`
}
