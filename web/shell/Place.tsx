import { useEffect, useRef } from 'react'
import { useLocation } from 'react-router'
import type { CourseHead } from '#contract'
import { useCourses } from '../session/ahead'
import { goTo, heading } from './heading'
import { isStop, STOPS } from './stops'

const PAGES: Record<string, string> = {
  courses: 'Your courses',
  account: 'Your account',
  installation: 'Installation',
  record: 'The record',
  post: 'The post',
  judging: 'Judging at a line',
  students: 'A student',
  class: 'A class',
}

/**
 * Where one is, in the page's title: the part, the stop, the course. No student is named in it, since titles stay in a browser's history.
 */
export function titleOf(pathname: string, search: string, courses: readonly Pick<CourseHead, 'id' | 'code'>[]): string {
  const [first = '', courseId, name = '', part] = pathname.split('/').slice(1)
  if (first !== 'courses' || courseId === undefined) return [PAGES[first], 'Level Table'].filter(Boolean).join(' · ')
  const shown = part && isStop(name) ? part : new URLSearchParams(search).get('part')
  const page = isStop(name) ? STOPS[name].title : PAGES[name]
  const words = [
    shown && shown[0]!.toUpperCase() + shown.slice(1).replaceAll('-', ' '),
    page,
    courses.find((c) => c.id === courseId)?.code,
    'Level Table',
  ]
  return words.filter(Boolean).join(' · ')
}

/** The stop, or the page beside the stops: going from one of its parts to another is no other place. */
const placeOf = (pathname: string): string => pathname.split('/').slice(0, 4).join('/')
const isWhole = (place: string | null): boolean =>
  place !== null && (place.split('/')[1] !== 'courses' || place === '/courses' || place.split('/').length === 4)

/**
 * Says where one is: in the page's title, and by moving the focus to the heading of another stop once it has come. Whoever has gone on
 * to something else meanwhile is left there. Before everything stands a way past what is on every page.
 */
export function Place() {
  const { pathname, search } = useLocation()
  const courses = useCourses()
  const title = titleOf(pathname, search, courses.data ?? [])
  useEffect(() => void (document.title = title), [title])

  const place = placeOf(pathname)
  const before = useRef<string | null>(null)
  useEffect(() => {
    // The first page, and the stop that a course opens at, begin at their top as any page does.
    const isFirst = !isWhole(before.current)
    before.current = place
    if (isFirst) return
    const from = document.activeElement
    const arrived = (): boolean => {
      const now = heading()
      if (!now) return false
      const at = document.activeElement
      const goneOn = at !== document.body && (at !== from || !!now.closest('main')?.contains(at))
      if (!goneOn && !document.querySelector('.modal.show')) goTo(now)
      return true
    }
    if (arrived()) return
    const coming = new MutationObserver(() => arrived() && coming.disconnect())
    coming.observe(document.body, { childList: true, subtree: true })
    return () => coming.disconnect()
  }, [place])

  return (
    <a
      className="visually-hidden-focusable skip"
      href="#page"
      onClick={(e) => {
        e.preventDefault()
        const there = heading()
        if (there) goTo(there)
      }}
    >
      To the page
    </a>
  )
}
