import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo } from 'react'
import { routes, type PeopleGroup } from '#contract'
import { call } from '../../../api/client'
import { useSaved } from '../../../saving/saved'

export interface Groups {
  all: PeopleGroup[]
  keep: (name: string, studentIds: string[]) => Promise<PeopleGroup>
  drop: (id: string) => Promise<void>
}

/** Groups of students that are kept under a name. */
export function useGroups(courseId: string): Groups {
  const queries = useQueryClient()
  const { saving } = useSaved()
  const key = ['groups', courseId]
  const { data } = useQuery({ queryKey: key, queryFn: () => call(routes.groups, { params: { courseId } }) })
  const again = () => queries.invalidateQueries({ queryKey: key })
  const all = useMemo(() => data ?? [], [data])
  return {
    all,
    async keep(name, studentIds) {
      const made = await saving(call(routes.keepGroup, { params: { courseId }, body: { name, studentIds } }))
      await again()
      return made
    },
    async drop(id) {
      await saving(call(routes.dropGroup, { params: { courseId, groupId: id } }))
      await again()
    },
  }
}
