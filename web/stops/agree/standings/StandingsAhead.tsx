import { useIsFetching } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useOutcomeFiguresAhead } from '../../../course/course'
import { useCourseOutcomes } from './useStandings'

/** Once what is on screen has come: so long nothing more is asked for. */
const AHEAD_MS = 50

/**
 * Makes standings ready while another part of this stop is looked at, so that they open at once. Which outcomes there are is asked
 * for first of all: it is little, and from then on the server reads what they are made of.
 */
export function StandingsAhead({ courseId }: { courseId: string }) {
  const { given, stamp } = useCourseOutcomes(courseId)
  const [settled, setSettled] = useState(false)
  const fetching = useIsFetching() > 0
  useEffect(() => {
    if (fetching) return
    const waiting = setTimeout(() => setSettled(true), AHEAD_MS)
    return () => clearTimeout(waiting)
  }, [fetching])
  useOutcomeFiguresAhead('standings', settled && given?.links.length ? given : undefined, stamp, null)
  return null
}
