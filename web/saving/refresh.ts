import { useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import { AREAS, type Area, type Route } from '#contract'

/** What is fetched of a course, each under its key and the course's id. */
const OF_COURSE = [
  'table',
  'plan',
  'roll',
  'sheet',
  'record',
  'issues',
  'script',
  'library',
  'tuning',
  'exemplars',
  'piles',
  'pile',
  'sharing',
  'further readings',
  'notes',
  'between',
  'questions',
  'student view',
  'deliveries',
  'letters',
  'roll files',
  'course people',
  'student access',
] as const
type CourseKey = (typeof OF_COURSE)[number]
/** What is fetched of the installation. */
const OF_INSTALLATION = ['courses', 'people', 'audit', 'installed courses'] as const

/** What a write to an area can change elsewhere; everything of the course where nothing is said. */
const TOUCHES: { [A in Area]?: readonly CourseKey[] } = {
  library: ['library', 'plan', 'table', 'tuning', 'exemplars', 'piles', 'pile', 'sheet', 'record', 'script'],
  exemplars: ['tuning', 'exemplars', 'piles', 'pile', 'library'],
  sharing: ['sharing', 'further readings', 'piles', 'pile', 'plan', 'table', 'sheet', 'course people', 'deliveries'],
  deliveries: ['deliveries', 'piles', 'pile', 'sheet', 'table', 'script'],
  notes: ['notes'],
  student: ['questions', 'student view', 'letters'],
  post: ['letters'],
  people: ['course people', 'student access', 'sharing', 'piles', 'plan', 'roll', 'letters'],
}

const areaOf = new Map<Route, Area>(
  Object.entries(AREAS).flatMap(([area, routes]) => Object.values(routes).map((route) => [route as Route, area as Area] as const)),
)

const keysTouched = (written: readonly (Route | null)[]): readonly CourseKey[] => {
  const touched = written.map((route) => {
    const area = route && areaOf.get(route)
    return (area && TOUCHES[area]) ?? OF_COURSE
  })
  return [...new Set(touched.flat())]
}

interface Written {
  /** Null where it was the installation that was written to. */
  courseId: string | null
  /** The routes that were written to; everything is fetched anew where one of them is not known. */
  routes?: readonly (Route | null)[]
  /** Fetched in another way. */
  except?: CourseKey
}

/** Fetches anew what writes may have changed, of their own course. */
export async function fetchAnew(queries: QueryClient, { courseId, routes = [null], except }: Written): Promise<void> {
  const keys =
    courseId === null
      ? OF_INSTALLATION.map((key) => [key])
      : [...keysTouched(routes).map((key) => [key, courseId]), ['courses']].filter(([key]) => key !== except)
  await Promise.all(keys.map((queryKey) => queries.invalidateQueries({ queryKey })))
}

export function useRefresh(): (written: Written) => Promise<void> {
  const queries = useQueryClient()
  return useCallback((written) => fetchAnew(queries, written), [queries])
}
