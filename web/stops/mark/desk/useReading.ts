import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { routes, type DeskScript, type ReadingBody } from '#contract'
import { call, isStill, messageOf, OfflineError, ProblemError } from '../../../api/client'
import { useSignedIn } from '../../../session/ahead'
import { useSendBeforeSignOut } from '../../../session/leave'
import { useLooking } from '../../../session/look'
import { useSaved } from '../../../saving/saved'
import { backupOf, begin, bodyOf, Current, sameReading, type Backup } from './backup'

type Meant = Pick<Backup, 'as' | 'gapMeant' | 'afterSeeing'>
const DRAFT: Meant = { as: 'draft', gapMeant: false, afterSeeing: false }
const KEEP_AFTER_MS = 500
const RETRY_MS = 3000
const UNANSWERED = 5

/**
 * One's own reading of the script on the desk: what is on screen is ahead of what is saved. It saves as one goes, one write
 * after the other; with the connection gone it waits here, also over a reload, and is sent when it is back. Changed in another
 * window meanwhile, it is held until one has chosen.
 */
export function useReading(courseId: string, script: DeskScript) {
  const queries = useQueryClient()
  const { saving, typed } = useSaved()
  const me = useSignedIn()
  const ids = useMemo(
    () => ({ courseId, assessmentId: script.assessment.id, studentId: script.studentId }),
    [courseId, script.assessment.id, script.studentId],
  )
  const backup = useMemo(() => backupOf({ personId: me.id, ...ids }), [me.id, ids])
  const looking = useLooking()
  const [kept] = useState(() => (looking ? null : backup.read()))
  const [first] = useState(() => begin(script.own, kept))
  const [body, setBody] = useState(first.body)
  const [state, setState] = useState(script.own.state)
  const [mark, setMark] = useState(script.own.mark)
  const [problem, setProblem] = useState<string | null>(null)
  const [clash, setClash] = useState(first.clash)
  const latest = useRef(body)
  const version = useRef(script.own.version)
  const dirty = useRef(first.unsent)
  const held = useRef(first.clash !== null)
  const unanswered = useRef<ReadingBody[]>([])
  /** What was done with it last: what could not be sent is sent again as what it was. */
  const meant = useRef<Meant>(kept ? { as: kept.as, gapMeant: kept.gapMeant, afterSeeing: kept.afterSeeing } : DRAFT)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const chain = useRef<Promise<unknown>>(Promise.resolve())
  /** Says that what was typed is no longer waiting. */
  const settled = useRef<() => void>(undefined)

  const keep = useCallback(
    () => backup.keep({ version: version.current, body: latest.current, unanswered: unanswered.current, ...meant.current }),
    [backup],
  )
  const send = useCallback(
    (next: Meant = meant.current): Promise<boolean> => {
      meant.current = next
      clearTimeout(timer.current)
      const once = async (): Promise<boolean> => {
        if (held.current || !isStill(me.id)) return false
        const sent = latest.current
        dirty.current = false
        try {
          const { as, ...more } = next
          const done = await saving(
            call(routes.keepReading, { params: ids, body: { ...sent, version: version.current, state: as, ...more } }),
          )
          version.current = done.version
          unanswered.current = []
          setState(done.state)
          setMark(done.mark)
          setProblem(null)
          if (latest.current === sent) backup.drop()
          else keep()
          void queries.invalidateQueries({ queryKey: ['pile', courseId] })
          void queries.invalidateQueries({ queryKey: ['piles', courseId] })
          return true
        } catch (e) {
          dirty.current = true
          const now = e instanceof ProblemError ? Current.safeParse(e.problem.current).data : undefined
          if (now && unanswered.current.some((before) => sameReading(before, bodyOf(now)))) {
            // It had arrived after all, only the answer had not: what is here goes on top of it.
            version.current = now.version
            unanswered.current = []
            return once()
          }
          if (now) {
            held.current = true
            setClash(now)
          } else setProblem(messageOf(e))
          if (e instanceof OfflineError) {
            unanswered.current = [...unanswered.current, sent].slice(-UNANSWERED)
            keep()
            timer.current = setTimeout(() => void send(), RETRY_MS)
          }
          return false
        }
      }
      const turn = chain.current.then(once).then((done) => {
        // Typed on meanwhile, it still waits; refused, that is said.
        if (!dirty.current || !done) {
          settled.current?.()
          settled.current = undefined
        }
        return done
      })
      chain.current = turn
      return turn
    },
    [backup, courseId, ids, keep, me.id, queries, saving],
  )
  const edit = useCallback(
    (next: ReadingBody) => {
      latest.current = next
      dirty.current = true
      meant.current = DRAFT
      setBody(next)
      settled.current ??= typed()
      keep()
      clearTimeout(timer.current)
      timer.current = setTimeout(() => void send(), KEEP_AFTER_MS)
    },
    [keep, send, typed],
  )
  const settleClash = useCallback(
    (whose: 'mine' | 'theirs') => {
      if (!clash) return
      version.current = clash.version
      held.current = false
      setClash(null)
      if (whose === 'mine') return void send()
      latest.current = bodyOf(clash)
      dirty.current = false
      // Nothing of one's own waits any more.
      typed()()
      setBody(latest.current)
      setState(clash.state)
      backup.drop()
    },
    [backup, clash, send, typed],
  )
  useEffect(() => {
    if (dirty.current) timer.current = setTimeout(() => void send(), KEEP_AFTER_MS)
    return () => {
      if (dirty.current) void send()
    }
  }, [send])
  useSendBeforeSignOut(() => (dirty.current ? send() : chain.current))

  return {
    body,
    state,
    /** As the server reckoned it; null where points are hidden or something is not judged. */
    mark,
    problem,
    /** What stands on the server instead, changed in another window; nothing is sent until one has chosen. */
    clash,
    settleClash,
    edit,
    handIn: (gapMeant: boolean) => send({ as: 'handed in', gapMeant, afterSeeing: false }),
    /** @param afterSeeing others' readings were seen, and that is said to the lead */
    takeBack: (afterSeeing: boolean) => send({ ...DRAFT, afterSeeing }),
    /** It is handed in here and waits for the server. */
    waitsToBeHandedIn: problem !== null && meant.current.as === 'handed in',
  }
}
