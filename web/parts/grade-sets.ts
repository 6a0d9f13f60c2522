import { useQuery, useQueryClient } from '@tanstack/react-query'
import { routes, type GradeSet } from '#contract'
import { call } from '../api/client'
import { useWrites } from '../saving/writes'

const key = ['grade sets'] as const

/** The sets of grades that the department keeps: read from any course of theirs, kept and dropped by leads. */
export function useGradeSets(courseId: string) {
  const { write } = useWrites()
  const queries = useQueryClient()
  const params = { courseId }
  const sets = useQuery({ queryKey: key, queryFn: () => call(routes.gradeSets, { params }) })
  const send = async (sent: Promise<GradeSet[]>) => {
    queries.setQueryData(key, await sent)
    return true
  }
  return {
    sets: sets.data ?? [],
    keep: (name: string) => write(`keep the grades as ${name}`, () => send(call(routes.keepGradeSet, { params, body: { name } }))),
    drop: ({ id, name }: GradeSet) =>
      write(`keep ${name} no longer`, () => send(call(routes.dropGradeSet, { params: { courseId, setId: id } }))),
  }
}
