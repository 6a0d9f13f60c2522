import { CourseError, STATUSES, type Condition, type Course, type MarkRow, type Policy, type TotalAdjustment } from './course'

/**
 * A course as columns of numbers. Components and assessments are put in the order of their ids, so that
 * sums come out bit for bit the same however the plan is sorted; `planOrder` keeps the order people see.
 */
export interface PackedCourse {
  policy: Policy
  boundaries: Course['boundaries']
  adjustments: TotalAdjustment[]
  conditions: PackedCondition[]
  studentIds: string[]
  sectionIds: string[]
  /** Student → index into `sectionIds`. */
  sectionOf: Int32Array
  components: PackedComponent[]
  /** Counting assessments, by component and then by id. */
  assessmentIds: string[]
  planOrder: Int32Array
  outOf: Float64Array
  /** Weight inside the component: the worth, or 1 where all carry the same. */
  inside: Float64Array
  bonus: Uint8Array
  droppable: Uint8Array
  /** sections × assessments: 1 where a placement exists. */
  placed: Uint8Array
  /** students × assessments; NaN is a blank. */
  mark: Float64Array
  /** students × assessments: index into STATUSES. */
  status: Uint8Array
  /** students × assessments, or null where nobody is late. */
  daysLate: Float64Array | null
}

export interface PackedComponent {
  id: string
  planOrder: number
  weight: number
  bonus: boolean
  dropLowest: number
  /** Range of its assessments in the columns. */
  start: number
  end: number
  /** All droppable assessments weigh the same inside it, so the lowest fractions are the ones to drop. */
  evenDrops: boolean
}

export interface PackedCondition {
  /** As it was set. */
  asked: Condition
  /** Place of the component, or of the assessment among those that count; -1 for none. */
  component: number
  column: number
}

export const STATUS_CODE = Object.fromEntries(STATUSES.map((s, i) => [s, i])) as Record<(typeof STATUSES)[number], number>

/** In place of a column: recorded, but it counts for nothing. */
const NOT_COUNTED = -1

const byId = (a: { id: string }, b: { id: string }) => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0)

/**
 * Checks a course and lays it out for the engine.
 * @throws CourseError naming the first entry that is unknown, double or not a number.
 */
export function packCourse(course: Course): PackedCourse {
  const { packed, studentIndex, columnOf } = packPlan(course)
  fillMarks(packed, course.marks, studentIndex, columnOf)
  return packed
}

/** Marks as columns: rows of the course's students, in each its assessments in the order of the plan. */
export interface MarkColumns {
  /** NaN is a blank. */
  mark: Float64Array
  /** Places in STATUSES. */
  status: Uint8Array
  daysLate: Int32Array
}

/**
 * Lays a course out whose marks stand in columns already: they are copied, and nothing is looked up.
 * @throws CourseError as `packCourse` does, for the plan and the roll
 */
export function packColumns(course: Omit<Course, 'marks'>, { mark, status, daysLate }: MarkColumns): PackedCourse {
  const { packed } = packPlan(course)
  const from = course.assessments.length
  const to = packed.assessmentIds.length
  const { planOrder } = packed
  const late = daysLate.some((d) => d > 0) ? (packed.daysLate = new Float64Array(packed.mark.length)) : null
  for (let s = 0; s < packed.studentIds.length; s++)
    for (let a = 0; a < to; a++) {
      const source = s * from + planOrder[a]!
      const cell = s * to + a
      packed.mark[cell] = mark[source]!
      packed.status[cell] = status[source]!
      if (late) late[cell] = daysLate[source]!
    }
  return packed
}

/**
 * Conditions by the places of what they are on.
 * @throws CourseError for a grade, component or assessment that is not there
 */
export function packConditions(
  course: Pick<Course, 'conditions' | 'boundaries' | 'components' | 'assessments'>,
  packed: Pick<PackedCourse, 'components' | 'assessmentIds'>,
): PackedCondition[] {
  return (course.conditions ?? []).map((asked, i) => {
    const { least, atMost } = asked
    const wrong = (what: string, part: string) =>
      new CourseError(`A condition names ${what}, which this course does not have.`, `conditions[${i}].${part}`)
    nonNegative(least, `conditions[${i}].least`)
    if (!course.boundaries.some((b) => b.grade === atMost)) throw wrong(`the grade ${atMost}`, 'atMost')
    if ('componentId' in asked) {
      const { componentId } = asked
      const component = packed.components.findIndex((c) => c.id === componentId)
      if (component < 0) throw wrong(`component ${componentId}`, 'componentId')
      return { asked, component, column: -1 }
    }
    const { assessmentId } = asked
    if (!course.assessments.some((a) => a.id === assessmentId)) throw wrong(`assessment ${assessmentId}`, 'assessmentId')
    return { asked, component: -1, column: packed.assessmentIds.indexOf(assessmentId) }
  })
}

function packPlan(course: Omit<Course, 'marks'>) {
  const componentOrder = indexIds(course.components, 'components')
  const planOrderOf = indexIds(course.assessments, 'assessments')
  const sections = new Map<string, number>()
  const sectionIndex = (id: string) => {
    let at = sections.get(id)
    if (at === undefined) sections.set(id, (at = sections.size))
    return at
  }

  course.assessments.forEach((a, i) => {
    if (!componentOrder.has(a.componentId))
      throw new CourseError(
        `Assessment ${a.id} names component ${a.componentId}, which is not in the plan.`,
        `assessments[${i}].componentId`,
      )
    if (!(a.outOf > 0) || !Number.isFinite(a.outOf))
      throw new CourseError(`Assessment ${a.id} must be marked out of more than 0.`, `assessments[${i}].outOf`)
    nonNegative(a.worth, `assessments[${i}].worth`)
  })

  const columns: Course['assessments'] = []
  const components = [...course.components].sort(byId).map((c): PackedComponent => {
    const at = componentOrder.get(c.id)!
    nonNegative(c.weight, `components[${at}].weight`)
    nonNegative(c.dropLowest, `components[${at}].dropLowest`)
    const start = columns.length
    columns.push(...course.assessments.filter((a) => a.counts && a.componentId === c.id).sort(byId))
    const inside = columns.slice(start)
    const droppable = inside.filter((a) => a.droppable && !a.bonus)
    return {
      id: c.id,
      planOrder: at,
      weight: c.weight,
      bonus: c.bonus,
      dropLowest: c.dropLowest,
      start,
      end: columns.length,
      evenDrops: c.combine === 'equally' || droppable.every((a) => a.worth === droppable[0]!.worth && a.worth > 0),
    }
  })
  const equally = new Set(course.components.filter((c) => c.combine === 'equally').map((c) => c.id))
  const columnOf = new Map(course.assessments.map((a) => [a.id, NOT_COUNTED]))
  columns.forEach((a, i) => columnOf.set(a.id, i))

  const studentIds = course.students.map((s) => s.id)
  const studentIndex = indexIds(course.students, 'students')
  const sectionOf = Int32Array.from(course.students, (s) => sectionIndex(s.sectionId))
  for (const p of course.placements) sectionIndex(p.sectionId)

  const width = columns.length
  const placed = new Uint8Array(sections.size * width)
  // Those of one section mostly follow one another.
  let lastSection: string | null = null
  let section = -1
  course.placements.forEach((p, i) => {
    const column = columnOf.get(p.assessmentId)
    if (column === undefined)
      throw new CourseError(`A placement names assessment ${p.assessmentId}, which is not in the plan.`, `placements[${i}].assessmentId`)
    if (column === NOT_COUNTED) return
    if (p.sectionId !== lastSection) {
      section = sectionIndex(p.sectionId)
      lastSection = p.sectionId
    }
    placed[section * width + column] = 1
  })

  const cells = studentIds.length * width
  const packed: PackedCourse = {
    policy: course.policy,
    boundaries: course.boundaries,
    adjustments: course.adjustments ?? [],
    conditions: packConditions(course, { components, assessmentIds: columns.map((a) => a.id) }),
    studentIds,
    sectionIds: [...sections.keys()],
    sectionOf,
    components,
    assessmentIds: columns.map((a) => a.id),
    planOrder: Int32Array.from(columns, (a) => planOrderOf.get(a.id)!),
    outOf: Float64Array.from(columns, (a) => a.outOf),
    inside: Float64Array.from(columns, (a) => (equally.has(a.componentId) ? 1 : a.worth)),
    bonus: Uint8Array.from(columns, (a) => Number(a.bonus)),
    droppable: Uint8Array.from(columns, (a) => Number(a.droppable)),
    placed,
    mark: new Float64Array(cells).fill(NaN),
    status: new Uint8Array(cells),
    daysLate: null,
  }
  return { packed, studentIndex, columnOf }
}

function fillMarks(packed: PackedCourse, marks: MarkRow[], studentIndex: Map<string, number>, columnOf: Map<string, number>): void {
  const width = packed.assessmentIds.length
  const seen = new Uint8Array(packed.mark.length)
  // Rows mostly come student by student in the same order of work, or assessment by assessment: what followed
  // what is remembered, and the look-up by id is only for where that fails.
  let lastStudent = ''
  let row = -1
  let column = NOT_COUNTED
  const { assessmentIds, studentIds, mark, status } = packed
  const following = new Int32Array(width).fill(-1)
  for (let i = 0; i < marks.length; i++) {
    const m = marks[i]!
    if (m.studentId !== lastStudent || row < 0) {
      const at = studentIds[row + 1] === m.studentId ? row + 1 : studentIndex.get(m.studentId)
      if (at === undefined) throw new CourseError(`A mark names student ${m.studentId}, who is not on the roll.`, `marks[${i}].studentId`)
      row = at
      lastStudent = m.studentId
    }
    const guess = column === NOT_COUNTED ? -1 : following[column]!
    // Compared with what it should be alone: two ids that are one string are told at once, two that differ only by their letters.
    if (guess >= 0 && assessmentIds[guess] === m.assessmentId) column = guess
    else {
      const found = columnOf.get(m.assessmentId)
      if (found === undefined)
        throw new CourseError(`A mark names assessment ${m.assessmentId}, which is not in the plan.`, `marks[${i}].assessmentId`)
      if (column !== NOT_COUNTED && found !== NOT_COUNTED) following[column] = found
      column = found
    }
    if (column === NOT_COUNTED) continue
    const cell = row * width + column
    if (seen[cell]) throw new CourseError(`Student ${m.studentId} has two marks for assessment ${m.assessmentId}.`, `marks[${i}]`)
    seen[cell] = 1
    if (m.status !== 'in') {
      const code = STATUS_CODE[m.status]
      if (code === undefined) throw new CourseError(`Unknown status "${String(m.status)}".`, `marks[${i}].status`)
      status[cell] = code
    }
    if (m.mark !== null) {
      if (!Number.isFinite(m.mark)) throw new CourseError('A mark must be a number or a blank (null).', `marks[${i}].mark`)
      mark[cell] = m.mark
    }
    if (m.daysLate > 0) (packed.daysLate ??= new Float64Array(packed.mark.length))[cell] = m.daysLate
  }
}

function indexIds(list: { id: string }[], name: string): Map<string, number> {
  const index = new Map<string, number>()
  list.forEach(({ id }, i) => {
    index.set(id, i)
    if (index.size === i) throw new CourseError(`The id ${id} stands twice in ${name}.`, `${name}[${i}].id`)
  })
  return index
}

function nonNegative(value: number, path: string): void {
  if (!(value >= 0) || !Number.isFinite(value)) throw new CourseError('Must be a number, 0 or more.', path)
}
