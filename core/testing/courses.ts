import fc from 'fast-check'
import { STATUSES, type Condition, type Course } from '../grades/course'

/** Numbers that meet each other often: ties, boundaries and halves come up all the time. */
const worth = fc.constantFrom(0, 1, 2, 5, 10, 10, 10, 12.5, 20, 33.333)
const outOf = fc.constantFrom(4, 5, 10, 10, 20, 30, 40, 80, 100)
const weight = fc.constantFrom(0, 5, 10, 20, 20, 25, 25, 30, 50, 33.3)

const policy: fc.Arbitrary<Course['policy']> = fc.record({
  missing: fc.oneof(
    fc.constant({ kind: 'zero' as const }),
    fc.constant({ kind: 'pending' as const }),
    fc.record({ kind: fc.constant('floor' as const), percent: fc.constantFrom(20, 35.5, 40) }),
  ),
  absent: fc.constantFrom({ kind: 'pending' as const }, { kind: 'zero' as const }, { kind: 'exempt' as const }),
  late: fc.oneof(
    fc.constant({ kind: 'none' as const }),
    fc.record({ kind: fc.constant('cap' as const), percent: fc.constantFrom(40, 50, 62.5) }),
    fc.record({ kind: fc.constant('perDay' as const), percent: fc.constantFrom(2.5, 5, 10), maxDays: fc.constantFrom(null, 3, 5) }),
  ),
  rounding: fc.oneof(fc.constant(null), fc.record({ decimals: fc.constantFrom(0 as const, 1 as const, 2 as const) })),
  above100: fc.constantFrom('allow' as const, 'cap' as const),
})

/** Conditions on the parts of a plan, asking for what students often have just so. */
const conditionsOn = (components: number, assessments: number): fc.Arbitrary<Condition[]> => {
  const asks = {
    least: fc.constantFrom(25, 37.5, 40, 50, 62.5, 75),
    atMost: fc.constantFrom('Merit', 'Credit', 'Pass', 'Refer', 'Distinction'),
  }
  return fc.array(
    fc.oneof(
      fc.record({ componentId: fc.nat(components - 1).map((i) => `c${i}`), ...asks }),
      fc.record({ assessmentId: fc.nat(assessments - 1).map((i) => `a${i}`), ...asks }),
    ),
    { maxLength: 3 },
  )
}

/** Small courses with everything in them, built to sit on ties. */
export const courses: fc.Arbitrary<Course> = fc
  .record({
    policy,
    plan: fc.array(fc.tuple(weight, fc.boolean(), fc.nat(2), fc.integer({ min: 0, max: 9 })), { minLength: 1, maxLength: 3 }),
  })
  .chain(({ policy: p, plan }) =>
    fc
      .array(
        fc.record({
          component: fc.nat(plan.length - 1),
          outOf,
          worth,
          counts: fc.integer({ min: 0, max: 9 }).map((n) => n > 0),
          bonus: fc.integer({ min: 0, max: 9 }).map((n) => n === 0),
          droppable: fc.integer({ min: 0, max: 9 }).map((n) => n > 1),
          placed: fc.integer({ min: 0, max: 9 }).map((n) => n > 0),
          quarter: fc.integer({ min: 0, max: 8 }),
          fine: fc.integer({ min: 0, max: 40 }),
          plain: fc.boolean(),
          status: fc.oneof({ weight: 12, arbitrary: fc.constant('in' as const) }, { weight: 4, arbitrary: fc.constantFrom(...STATUSES) }),
          blank: fc.integer({ min: 0, max: 19 }).map((n) => n === 0),
          daysLate: fc.nat(6),
        }),
        { minLength: 1, maxLength: 7 },
      )
      .map((list): Course => ({
        policy: p,
        components: plan.map(([w, equally, drop, bonus], i) => ({
          id: `c${i}`,
          weight: w,
          combine: equally ? 'equally' : 'byWorth',
          dropLowest: drop,
          bonus: bonus === 0 && i > 0,
        })),
        assessments: list.map((a, i) => ({
          id: `a${i}`,
          componentId: `c${a.component}`,
          outOf: a.outOf,
          worth: a.worth,
          counts: a.counts,
          bonus: a.bonus,
          droppable: a.droppable,
        })),
        placements: list.flatMap((a, i) => (a.placed ? [{ assessmentId: `a${i}`, sectionId: 's' }] : [])),
        students: [{ id: 'p', sectionId: 's' }],
        marks: list.map((a, i) => ({
          studentId: 'p',
          assessmentId: `a${i}`,
          mark: a.blank ? null : Number((a.plain ? (a.outOf * a.quarter) / 8 : (a.outOf * a.fine) / 40).toFixed(3)),
          status: a.status,
          daysLate: a.status === 'late' ? a.daysLate : 0,
        })),
        boundaries: [
          { grade: 'Distinction', from: 80 },
          { grade: 'Merit', from: 69.5 },
          { grade: 'Credit', from: 60 },
          { grade: 'Pass', from: 50 },
          { grade: 'Refer', from: 0 },
        ],
      })),
  )
  .chain((course) => conditionsOn(course.components.length, course.assessments.length).map((conditions) => ({ ...course, conditions })))
