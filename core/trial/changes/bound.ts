import { checkBoundaries } from '../../grades/check-boundaries'
import type { Boundary } from '../../grades/course'
import { conditionsRenamed, conditionWithoutGrade } from '../../grades/renamed-grades'
import { ChangeError, type ChangeKind } from './kind'

/** Where each grade begins. */
export interface Bound {
  kind: 'bound'
  boundaries: Boundary[]
  /**
   * The set that it was drawn over: of the same grades only the lines that were moved are decided, so that taking one decision back
   * does not bring back, nor keep, what another one moved. Without it the whole set is.
   */
  over?: Boundary[]
}

const sameGrades = (a: readonly Boundary[], b: readonly Boundary[]) => a.length === b.length && a.every((x, i) => x.grade === b[i]!.grade)

/** The lines that were moved; null where the whole set is another. */
function moved({ boundaries, over }: Bound): Boundary[] | null {
  if (!over || !sameGrades(over, boundaries)) return null
  return boundaries.filter((b, i) => b.from !== over[i]!.from)
}

export const bound: ChangeKind<Bound> = {
  decides: 'bound',
  word: 'boundaries',
  target: () => '',
  // Moved again before it is adopted, it is still drawn over the set in force.
  merge: (earlier, later) => (earlier.over && later.over ? { ...later, over: earlier.over } : later),
  meets(a, b) {
    const [lines, others] = [moved(a), moved(b)]
    return !lines || !others || lines.some((l) => others.some((o) => o.grade === l.grade))
  },
  apply(draft, c) {
    const lines = moved(c)
    if (!lines || !sameGrades(c.boundaries, draft.boundaries)) {
      // A condition goes along with the grade that it names.
      draft.conditions = conditionsRenamed(draft.conditions, draft.boundaries, c.boundaries)
      draft.boundaries = c.boundaries
      return
    }
    const from = new Map(lines.map((b) => [b.grade, b.from]))
    draft.boundaries = draft.boundaries.map((b) => ({ ...b, from: from.get(b.grade) ?? b.from }))
  },
  check(c, { above100, w, after }) {
    if (c.over && !sameGrades(c.over, w.course.boundaries))
      throw new ChangeError(
        'The grades of the course have other names by now than those that these lines were drawn for: draw them again.',
        true,
      )
    const without = conditionWithoutGrade(after.course.conditions, after.course.boundaries)
    if (without) throw new ChangeError(without)

    const finding = checkBoundaries(c.boundaries, above100)[0] ?? checkBoundaries(after.course.boundaries, above100)[0]
    if (finding) throw new ChangeError(finding.message)
  },
  words: (all) =>
    all.map((c) => {
      const lines = moved(c)
      return lines && lines.length > 0
        ? lines.map((b) => `${b.grade} begins at ${b.from}`).join(', ')
        : `boundaries ${c.boundaries.map((b) => `${b.grade} ${b.from}`).join(', ')}`
    }),
}
