import { useEffect, useState } from 'react'
import { useOutcomeFiguresAhead } from '../../../course/course'
import { useCourseOutcomes } from './useStandings'

/** After what is on screen, and what it fetches itself. */
const AHEAD_MS = 1000

/** Reads what standings are made of while another part of this stop is looked at, so that they open at once. */
export function StandingsAhead({ courseId }: { courseId: string }) {
  const [settled, setSettled] = useState(false)
  useEffect(() => {
    const waiting = setTimeout(() => setSettled(true), AHEAD_MS)
    return () => clearTimeout(waiting)
  }, [])
  return settled ? <Ahead courseId={courseId} /> : null
}

function Ahead({ courseId }: { courseId: string }) {
  const { given, stamp } = useCourseOutcomes(courseId)
  useOutcomeFiguresAhead('standings', given?.links.length ? given : undefined, stamp, null)
  return null
}
