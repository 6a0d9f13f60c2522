import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { routes } from '#contract'
import { addressOf } from '../api/client'
import { pendingWrites } from '../saving/pending-writes'
import { fetchAnew } from '../saving/refresh'
import { lookForVersion } from '../api/new-version'

/** Told when a course was changed by somebody; a screen that can fetch less than everything listens to it. */
export const courseChanged = new EventTarget()

/** Where it stands how far an issue is that is being made. */
export const makingKey = (courseId: string) => ['making', courseId]

/** Others' changes are on screen within a second, and fifty at once are fetched together. */
const TOGETHER_MS = 600

/**
 * Fetches anew when somebody else changed the course.
 * @param known version of what is on screen; without it what the server says at first
 */
export function useCourseEvents(courseId: string, known?: number): void {
  const queries = useQueryClient()
  const seen = useRef(known)
  if (known !== undefined) seen.current = known
  useEffect(() => {
    const source = new EventSource(addressOf(routes.events, { courseId }))
    let timer: ReturnType<typeof setTimeout> | undefined
    let latest = 0
    let wasAway = false
    source.onerror = () => void (wasAway = true)
    source.onopen = () => {
      // An update takes the server away for a moment.
      if (wasAway) void lookForVersion()
      wasAway = false
    }
    const catchUp = () => {
      timer = undefined
      // What oneself is saving fetches on its own when it is done.
      if (pendingWrites.count > 0) return
      const news = seen.current === undefined || latest > seen.current
      if (news) {
        seen.current = latest
        void fetchAnew(queries, { courseId, except: 'sheet' })
      }
      // The sheet may be large: it fetches what was written to it, and all of it only where more has changed. It is told in
      // any case, since what else is on screen may have been fetched after it.
      const untaken = courseChanged.dispatchEvent(new CustomEvent(courseId, { cancelable: true, detail: latest }))
      if (untaken && news) void queries.invalidateQueries({ queryKey: ['sheet', courseId] })
    }
    source.onmessage = (e: MessageEvent<string>) => {
      latest = Number(e.data)
      seen.current ??= latest
      timer ??= setTimeout(catchUp, TOGETHER_MS)
    }
    source.addEventListener('making', (e: MessageEvent<string>) => queries.setQueryData(makingKey(courseId), e.data))
    return () => {
      source.close()
      clearTimeout(timer)
    }
  }, [courseId, queries])
}
