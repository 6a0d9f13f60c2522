import { useQueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'

/** What a write to a course may change on other screens. */
export const COURSE_QUERIES = [
  'table',
  'plan',
  'roll',
  'sheet',
  'record',
  'issues',
  'courses',
  'script',
  'library',
  'tuning',
  'exemplars',
  'piles',
  'pile',
  'sharing',
  'deliveries',
  'letters',
  'roll files',
  'people',
  'audit',
  'installed courses',
  'course people',
  'student access',
] as const

/** Fetches anew whatever a write to the course may have changed. */
export function useRefresh(): () => Promise<void> {
  const queries = useQueryClient()
  return useCallback(async () => {
    await Promise.all(COURSE_QUERIES.map((key) => queries.invalidateQueries({ queryKey: [key] })))
  }, [queries])
}
