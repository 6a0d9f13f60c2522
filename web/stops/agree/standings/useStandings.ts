import { useQuery, useQueryClient } from '@tanstack/react-query'
import { routes, type CourseOutcomes } from '#contract'
import { call } from '../../../api/client'
import { problemOf } from '../../../api/problem-of'
import { useOutcomeFigures } from '../../../course/course'
import type { TriedRule } from './figures'

const keyOf = (courseId: string) => ['outcomes', courseId]

/** Outcomes of the course and what gives evidence of them. */
export function useCourseOutcomes(courseId: string): {
  given: CourseOutcomes | undefined
  /** Another one whenever something is another. */
  stamp: number
  problem: string | null
  again: () => Promise<void>
} {
  const queries = useQueryClient()
  const asked = useQuery({ queryKey: keyOf(courseId), queryFn: () => call(routes.courseOutcomes, { params: { courseId } }) })
  return {
    given: asked.data,
    stamp: asked.dataUpdatedAt,
    problem: problemOf(asked),
    again: () => queries.invalidateQueries({ queryKey: keyOf(courseId) }),
  }
}

/** Where everybody stands, and who would stand otherwise by a rule that is tried. */
export function useStandings(courseId: string, tried: TriedRule | null) {
  const outcomes = useCourseOutcomes(courseId)
  return { ...outcomes, figures: useOutcomeFigures('standings', outcomes.given, outcomes.stamp, tried) }
}
