import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { routes, type DeskScript, type ReadingBody } from '#contract'
import { call, messageOf, OfflineError } from '../../../api/client'
import { useLooking } from '../../../frame/look'
import { useSaved } from '../../../frame/saved'
import { backupOf } from './backup'

const KEEP_AFTER_MS = 500
const RETRY_MS = 3000

const bodyOf = ({ judged, comment, criterionComments, notes }: DeskScript['own']): ReadingBody => ({
  judged,
  comment,
  criterionComments,
  notes,
})

/**
 * One's own reading of the script on the desk: what is on screen is ahead of what is saved. It saves as one goes, one write
 * after the other; with the connection gone it waits here, also over a reload, and is sent when it is back.
 */
export function useReading(courseId: string, script: DeskScript) {
  const queries = useQueryClient()
  const { saving } = useSaved()
  const ids = useMemo(
    () => ({ courseId, assessmentId: script.assessment.id, studentId: script.studentId }),
    [courseId, script.assessment.id, script.studentId],
  )
  const backup = useMemo(() => backupOf(ids.courseId, ids.assessmentId, ids.studentId), [ids])
  const looking = useLooking()
  const [kept] = useState(() => (looking ? null : backup.read()))
  const unsent = kept && kept.version === script.own.version && script.own.state !== 'handed in' ? kept.body : null
  const [body, setBody] = useState<ReadingBody>(unsent ?? bodyOf(script.own))
  const [state, setState] = useState(script.own.state)
  const [mark, setMark] = useState(script.own.mark)
  const [problem, setProblem] = useState<string | null>(null)
  const latest = useRef(body)
  const version = useRef(script.own.version)
  const dirty = useRef(unsent !== null)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const chain = useRef<Promise<unknown>>(Promise.resolve())

  const send = useCallback(
    (as: 'draft' | 'handed in', gapMeant = false): Promise<boolean> => {
      clearTimeout(timer.current)
      const turn = chain.current.then(async () => {
        const sent = latest.current
        dirty.current = false
        try {
          const done = await saving(
            call(routes.keepReading, { params: ids, body: { ...sent, version: version.current, state: as, gapMeant } }),
          )
          version.current = done.version
          setState(done.state)
          setMark(done.mark)
          setProblem(null)
          if (latest.current === sent) backup.drop()
          else backup.keep({ version: done.version, body: latest.current })
          void queries.invalidateQueries({ queryKey: ['pile', courseId] })
          void queries.invalidateQueries({ queryKey: ['piles', courseId] })
          return true
        } catch (e) {
          dirty.current = true
          setProblem(messageOf(e))
          if (e instanceof OfflineError) timer.current = setTimeout(() => void send('draft'), RETRY_MS)
          return false
        }
      })
      chain.current = turn
      return turn
    },
    [backup, courseId, ids, queries, saving],
  )
  const edit = useCallback(
    (next: ReadingBody) => {
      latest.current = next
      dirty.current = true
      setBody(next)
      backup.keep({ version: version.current, body: next })
      clearTimeout(timer.current)
      timer.current = setTimeout(() => void send('draft'), KEEP_AFTER_MS)
    },
    [backup, send],
  )
  useEffect(() => {
    if (dirty.current) timer.current = setTimeout(() => void send('draft'), KEEP_AFTER_MS)
    return () => {
      if (dirty.current) void send('draft')
    }
  }, [send])

  return {
    body,
    state,
    /** As the server reckoned it; null where points are hidden or something is not judged. */
    mark,
    problem,
    edit,
    handIn: (gapMeant: boolean) => send('handed in', gapMeant),
    takeBack: () => send('draft'),
    /** Leaves the script with everything sent. */
    settle: async () => {
      if (dirty.current) await send('draft')
      else await chain.current
    },
  }
}
