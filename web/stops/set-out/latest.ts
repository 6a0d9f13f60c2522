import { useQueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import type { Plan, Roll } from '#contract'
import { useTrial } from '../../course/trial'

type Fetched = { plan: Plan; roll: Roll }

/** What was fetched last, with what was changed ahead of the server's answer; read when a write's turn has come. */
export function useLatest() {
  const queries = useQueryClient()
  const { courseId } = useTrial()
  return useCallback(<K extends keyof Fetched>(key: K) => queries.getQueryData<Fetched[K]>([key, courseId])!, [queries, courseId])
}

/** Changes what was fetched at once, ahead of the server's answer; fetching it anew puts right what was refused. */
export function useAhead() {
  const queries = useQueryClient()
  const { courseId } = useTrial()
  return useCallback(
    <K extends keyof Fetched>(key: K, change: (fetched: Fetched[K]) => Fetched[K]) => {
      // What is being fetched now was asked for before this change.
      void queries.cancelQueries({ queryKey: [key, courseId] })
      queries.setQueryData<Fetched[K]>([key, courseId], (fetched) => fetched && change(fetched))
    },
    [queries, courseId],
  )
}

/** A list with some fields of one row changed. */
export const withRow = <T extends { id: string }>(list: T[], id: string, patch: Partial<T>): T[] =>
  list.map((x) => (x.id === id ? { ...x, ...patch } : x))
