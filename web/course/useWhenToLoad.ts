import { useIsFetching } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useState } from 'react'
import { usePlanQuery } from './plan'

/** Scripts above which the first stop does without the marks unless they are asked for. */
const MANY_SCRIPTS = 100_000
const SETTLED_MS = 250

/**
 * When the marks are fetched. Where a page does without them what is on screen comes first, and the marks of a large department
 * only where a trial needs them or somebody asks; every other stop needs them at once. Once they are here they are kept up to date.
 */
export function useWhenToLoad(courseId: string, lightFirst: boolean, { trialOpen, isLoaded }: { trialOpen: boolean; isLoaded: boolean }) {
  const { data } = usePlanQuery(courseId, lightFirst)
  const fetching = useIsFetching({ predicate: ({ queryKey: [key, of] }) => (key === 'roll' || key === 'sheet') && of === courseId })
  const [settled, setSettled] = useState(false)
  const [asked, setAsked] = useState(false)
  const ready = !!data && fetching === 0
  useEffect(() => {
    if (!ready) return
    const timer = setTimeout(() => setSettled(true), SETTLED_MS)
    return () => clearTimeout(timer)
  }, [ready])
  const [students, assessments] = [data?.head.students ?? 0, data?.assessments.length ?? 0]
  const many = students * assessments > MANY_SCRIPTS && !asked && !trialOpen && !isLoaded
  const ask = useCallback(() => setAsked(true), [])
  const waitsFor = useMemo(() => (lightFirst && many ? { students, assessments } : null), [lightFirst, many, students, assessments])
  return { enabled: !lightFirst || isLoaded || (settled && !many), waitsFor, ask }
}
