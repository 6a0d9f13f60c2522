import { useQueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import { useTrial } from '../../frame/trial'

/** The newest row of a fetched list, for its version. */
export function useLatest() {
  const queries = useQueryClient()
  const { courseId } = useTrial()
  return useCallback(<T>(key: 'plan' | 'roll') => queries.getQueryData<T>([key, courseId])!, [queries, courseId])
}
