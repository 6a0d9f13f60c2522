import { useQuery, useQueryClient } from '@tanstack/react-query'
import { sightOf } from '#core/roles'
import { routes, type IssueHead } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse } from '../../course/course'

/** Whether one may tell others of the results: also of a course that is confirmed, in which nothing else is decided. */
export function useMayTell(): boolean {
  const { table } = useDecidedCourse()
  return sightOf(table.head.role).decides && table.head.awayAt === null
}

/** The issues of the course, the latest first: which one is closed, and which one counts. */
export function useIssues(): {
  all: IssueHead[] | undefined
  latest: IssueHead | undefined
  inForce: IssueHead | undefined
  again: () => Promise<void>
} {
  const { id, table, refresh } = useDecidedCourse()
  const queries = useQueryClient()
  const { data } = useQuery({ queryKey: ['issues', id], queryFn: () => call(routes.issues, { params: { courseId: id } }) })
  return {
    all: data,
    latest: data?.find((i) => i.number === table.head.confirmedIssue),
    inForce: data?.find((i) => i.inForce),
    async again() {
      await Promise.all([
        refresh(),
        ...['issues', 'records', 'result releases', 'signers'].map((key) => queries.invalidateQueries({ queryKey: [key, id] })),
      ])
    },
  }
}
