import { compareGroups, describe, type Description } from '#core/compare'
import { isRescaled, withoutRescaling, type CourseState } from '../../../course/state'
import { compareSections, startOf, tallestOf, type Compared, type Person } from '../../../parts/compared'
import { ofWhat, WHOLE_COURSE } from '../../../parts/of-what'

export interface ComparedYear {
  courseId: string
  term: string
  title: string
  people: Person[]
  figures: Description
  /** Against this year’s, in this year’s unit; null for this year, and where one of the two has nobody. */
  difference: number | null
  interval: [low: number, high: number] | null
  /** Course grades, best first, with how many have each. */
  grades: { grade: string; count: number }[]
  graded: number
}

export interface ComparedYears extends Pick<
  Compared,
  'subject' | 'title' | 'unit' | 'top' | 'from' | 'passMark' | 'tallest' | 'tolerance' | 'mean' | 'who'
> {
  /** This year first, then the earlier ones, the latest first. */
  years: ComparedYear[]
  /** What is not the same, in sentences. */
  odd: string[]
  /** Whether any of them was rescaled, so that how they were marked is something else. */
  rescaled: boolean
  /** They are shown as they were marked, and not as they count. */
  asMarked: boolean
}

/** What students reached elsewhere says nothing of a year. */
const NO_OTHERS: string[] = []

/** Another course with its marks. */
export type EarlierCourse = Pick<CourseState, 'table' | 'workings' | 'tried' | 'changes' | 'adopted' | 'current'>

const alike = (a: string, b: string) => a.trim().toLocaleLowerCase() === b.trim().toLocaleLowerCase()

/**
 * This year beside earlier ones of the same course: assessments and components are matched by their titles.
 * @param asMarked all of them as they were marked, in place of as they count
 */
export function compareYears(
  counting: CourseState,
  earlierCounting: readonly EarlierCourse[],
  wanted: string | null,
  asMarked = false,
): ComparedYears {
  const shown = <S extends EarlierCourse>(s: S): S => (asMarked ? { ...s, current: withoutRescaling(s) ?? s.current } : s)
  const [state, earlier] = [shown(counting), earlierCounting.map(shown)]
  const what = ofWhat(state, wanted)
  const now = compareSections(state, what.subject, NO_OTHERS)
  const odd: string[] = []
  const own: ComparedYear = yearOf(state, now.title, now.everyone.people)
  const others = earlier.flatMap((other): ComparedYear[] => {
    odd.push(...differences(state, other))
    const list: { id: string; title: string }[] =
      what.unit === 'marks'
        ? other.table.assessments
        : what.component >= 0
          ? other.table.components
          : [{ id: what.subject, title: what.title }]
    const match = list.find((x) => alike(x.title, what.title))
    if (!match) {
      odd.push(`${other.table.head.term} had nothing called ${what.title}, so it has no row here.`)
      return []
    }
    const then = compareSections(other, match.id, NO_OTHERS)
    if (then.unit === 'marks' && then.top !== what.top)
      odd.push(`${match.title} was out of ${then.top} in ${other.table.head.term}: its marks are shown out of ${what.top}.`)
    odd.push(...countedOtherwise(other, match.id, then, asMarked))
    const scale = what.top / then.top
    const year = yearOf(
      other,
      match.title,
      then.everyone.people.map((p) => ({ ...p, value: p.value * scale })),
    )
    return [{ ...year, ...against(year, own) }]
  })
  const years = [own, ...others]
  const from = startOf(
    years.flatMap((y) => y.people),
    what.top,
  )
  return {
    subject: what.subject,
    title: what.title,
    unit: what.unit,
    top: what.top,
    passMark: now.passMark,
    tolerance: now.tolerance,
    mean: now.mean,
    who: now.who,
    from,
    tallest: tallestOf(
      years.map((y) => y.people.map((p) => p.value)),
      from,
      what.top,
    ),
    years,
    odd,
    rescaled: [counting, ...earlierCounting].some(isRescaled),
    asMarked,
  }
}

function yearOf({ table, current }: EarlierCourse, title: string, people: Person[]): ComparedYear {
  const grades = [...current.result.boundaries].sort((a, b) => b.from - a.from).map((b) => b.grade)
  const count = new Map<string | null, number>()
  for (const s of current.result.students) count.set(s.grade, (count.get(s.grade) ?? 0) + 1)
  return {
    courseId: table.head.id,
    term: table.head.term,
    title,
    people,
    figures: describe(people.map((p) => p.value)),
    difference: null,
    interval: null,
    grades: grades.map((grade) => ({ grade, count: count.get(grade) ?? 0 })),
    graded: current.result.students.filter((s) => s.grade !== null).length,
  }
}

function against(then: ComparedYear, now: ComparedYear): Pick<ComparedYear, 'difference' | 'interval'> {
  const [own] = compareGroups([then, now].map((y) => ({ id: y.courseId, values: y.people.map((p) => p.value) }))).groups
  return { difference: own!.difference, interval: own!.interval }
}

/** How figures of an earlier year differ from what was marked, or from what was confirmed. */
function countedOtherwise(
  { table, tried, current }: EarlierCourse,
  subject: string,
  { unit, everyone }: Compared,
  asMarked: boolean,
): string[] {
  const { term } = table.head
  const rescaled = !asMarked && tried.adjustments.some((a) => a.on && (unit === 'marks' ? a.assessmentId === subject : true))
  const n = everyone.people.length
  const open = subject === WHOLE_COURSE ? n - current.result.students.filter((s) => s.grade !== null).length : 0
  return [
    ...(rescaled ? [`Figures of ${term} are as rescaled, not as marked.`] : []),
    ...(open > 0 ? [`${open} of ${n} in ${term} have no final grade: their percent so far is in its figures.`] : []),
  ]
}

/** What one year has and the other has not, by title. */
function differences({ table: now }: CourseState, { table: then }: EarlierCourse): string[] {
  const without = (list: readonly { title: string }[], other: readonly { title: string }[]) =>
    list.filter((a) => !other.some((b) => alike(a.title, b.title))).map((a) => a.title)
  const fresh = without(now.assessments, then.assessments)
  const gone = without(then.assessments, now.assessments)
  const say = (titles: readonly string[], words: string) =>
    titles.length > 0 ? [`${titles.join(', ')} ${titles.length === 1 ? 'has' : 'have'} ${words}.`] : []
  return [...say(fresh, `no namesake in ${then.head.term}`), ...say(gone, `been in ${then.head.term} only`)]
}
