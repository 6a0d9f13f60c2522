import { STATUSES } from '#core/grades'
import { compareResults } from '#core/rescale'
import { applyChanges, openItems, planFacts, planWithChanges, workingsOf, type Change } from '#core/trial'
import type { CourseTable } from '#contract'
import type { Course } from '../course/course'
import { FIGURES, type Figure, type FigureArgs, type FigureName } from '../course/figures'
import { Outcome, type CourseState } from '../course/state'

type Script = [student: string, assessment: string, mark: number | null, status?: (typeof STATUSES)[number]]
type Reading = [student: string, assessment: string, marker: string, mark: number]

const assessment = (id: string, componentId: string, outOf: number, more: Partial<CourseTable['assessments'][number]> = {}) =>
  ({
    id,
    componentId,
    title: id,
    marking: 'direct',
    outOf,
    worth: outOf,
    counts: true,
    bonus: false,
    droppable: true,
    passMark: null,
    tolerance: 2,
    readingsWanted: 1,
    standardId: null,
    ...more,
  }) as CourseTable['assessments'][number]

/** Two sections of two; a paper out of 40 and an essay out of 20 that is read twice. */
export function smallTable(scripts: readonly Script[], readings: readonly Reading[] = [], more: Partial<CourseTable> = {}): CourseTable {
  const students =
    more.students ??
    [
      ['ada', 'east'],
      ['bo', 'east'],
      ['cy', 'west'],
      ['di', 'west'],
    ].map(([id, sectionId], i) => ({ id: id!, name: id!, candidate: String(100 + i), sectionId: sectionId! }))
  const assessments = [assessment('paper', 'exam', 40, { passMark: 16 }), assessment('essay', 'work', 20, { readingsWanted: 2 })]
  const markers = ['mo', 'ny'].map((id) => ({ id, name: id }))
  const placeOf = (list: { id: string }[], id: string) => list.findIndex((x) => x.id === id)
  const ids = scripts.map(([s, a]) => `${a}:${s}`)
  return {
    head: { id: 'c', confirmedIssue: null } as CourseTable['head'],
    version: 1,
    hasMarks: scripts.length > 0,
    policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
    conditions: [],
    boundaries: [
      { grade: 'Pass', from: 40 },
      { grade: 'Merit', from: 60 },
      { grade: 'Refer', from: 0 },
    ],
    sections: [
      { id: 'east', code: 'E', name: 'East', teacher: 'mo' },
      { id: 'west', code: 'W', name: 'West', teacher: null },
    ],
    students,
    markers,
    components: [
      { id: 'exam', title: 'Exam', weight: 50, combine: 'byWorth', dropLowest: 0, bonus: false },
      { id: 'work', title: 'Work', weight: 50, combine: 'byWorth', dropLowest: 0, bonus: false },
    ] as CourseTable['components'],
    assessments,
    placements: assessments.flatMap((a) => ['east', 'west'].map((sectionId) => ({ assessmentId: a.id, sectionId, due: '2026-10-05' }))),
    stays: {},
    leftOut: {},
    scripts: {
      id: ids,
      student: scripts.map(([s]) => placeOf(students, s)),
      assessment: scripts.map(([, a]) => placeOf(assessments, a)),
      status: scripts.map(([, , , status = 'in']) => STATUSES.indexOf(status)),
      daysLate: scripts.map(() => 0),
      entered: scripts.map(([, , mark]) => mark),
      version: scripts.map(() => 1),
    },
    readings: {
      script: readings.map(([s, a]) => ids.indexOf(`${a}:${s}`)),
      marker: readings.map(([, , m]) => placeOf(markers, m)),
      mark: readings.map(([, , , mark]) => mark),
    },
    agreed: {},
    agreedBy: {},
    reopened: [],
    agreeBy: {},
    adjustments: [],
    ...more,
  }
}

/** A course as its worker has it, with a trial open where there are changes. */
export function smallState(table: CourseTable, changes: Change[] = []): CourseState {
  const workings = workingsOf(table)
  const tried = applyChanges(workings, changes)
  const adopted = Outcome.of(workings)
  return { table, workings, tried, changes, adopted, current: changes.length > 0 ? Outcome.of(tried) : adopted }
}

/** A table as the screens have it, with a trial open where there are changes. */
export function smallCourse(table: CourseTable, changes: Change[] = []): Course {
  const { workings, adopted, current } = smallState(table, changes)
  return {
    id: 'c',
    table,
    tried: planWithChanges(table, changes).plan,
    open: { items: openItems(workings, planFacts(table), adopted.standing), scripts: table.scripts.id.length, toSettle: 0 },
    adopted: adopted.result,
    current: current.result,
    graded: { adopted: adopted.graded, current: current.graded },
    trial: { changes, change: changes.length > 0 ? compareResults(adopted.result, current.result) : null, problem: null },
  } as Partial<Course> as Course
}

/** Answers what screens ask the course for, at once. */
export const smallFigures =
  (table: CourseTable, changes: Change[] = []) =>
  <N extends FigureName>(name: N, ...args: FigureArgs<N>): Figure<N> => {
    const figure = FIGURES[name] as unknown as (state: CourseState, ...args: FigureArgs<N>) => Figure<N>
    return figure(smallState(table, changes), ...args)
  }
