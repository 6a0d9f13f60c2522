import { useIsFetching } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useOutcomeFiguresAhead } from '../../../course/course'
import { useCourseOutcomes } from './useStandings'

/** Once what is on screen has come: so long nothing more is asked for. */
const AHEAD_MS = 50

/** Reads what standings are made of while another part of this stop is looked at, so that they open at once. */
export function StandingsAhead({ courseId }: { courseId: string }) {
  const [settled, setSettled] = useState(false)
  const fetching = useIsFetching() > 0
  useEffect(() => {
    if (fetching) return
    const waiting = setTimeout(() => setSettled(true), AHEAD_MS)
    return () => clearTimeout(waiting)
  }, [fetching])
  return settled ? <Ahead courseId={courseId} /> : null
}

function Ahead({ courseId }: { courseId: string }) {
  const { given, stamp } = useCourseOutcomes(courseId)
  useOutcomeFiguresAhead('standings', given?.links.length ? given : undefined, stamp, null)
  return null
}
