import { useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, use, useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { addChanges, type Change } from '#core/trial'
import { routes, type CourseHead, type KeptTrial } from '#contract'
import { call, ProblemError } from '../api/client'
import { useRefresh } from '../saving/refresh'
import { useSaved } from '../saving/saved'
import { useUndo } from '../saving/undo'

/** The open trial of a course: what is being tried, before it is adopted or discarded. */
export interface OpenTrial {
  courseId: string
  /** Changes kept in the trial, with what is being pulled on top. */
  changes: Change[]
  /** Adds to the trial, or opens one; undoable. */
  propose: (changes: Change[], label: string) => void
  /** Takes changes out of the trial again. */
  setTrial: (changes: Change[], label: string) => void
  /** Shows changes on top of the trial while something is being pulled; null lets go. Nothing is kept. */
  preview: (changes: Change[] | null) => void
  discard: () => void
  adopt: (reason: string) => Promise<void>
  /** The trial as another window of this person's left it, where both were changed; nothing is sent until one is chosen. */
  clash: Change[] | null
  settleClash: (whose: 'mine' | 'theirs') => void
  /** Fetches anew whatever a write to the course may have changed. */
  refresh: () => Promise<void>
  /** Whether this person may decide now. */
  mayDecide: boolean
}

const TrialContext = createContext<OpenTrial | null>(null)
const NO_CHANGES: Change[] = []
const KEEP_AFTER_MS = 400
const KEEPALIVE_LIMIT = 60_000

export function TrialProvider({ head, children }: { head: CourseHead; children: ReactNode }) {
  const courseId = head.id
  const queries = useQueryClient()
  const { saving } = useSaved()
  const { did } = useUndo()
  const mayDecide = head.role === 'lead' && head.confirmedIssue === null && head.awayAt === null
  const kept = useQuery({
    queryKey: ['trial', courseId],
    queryFn: () => call(routes.trial, { params: { courseId } }),
    enabled: head.role === 'lead',
    staleTime: Infinity,
  })
  const [own, setOwn] = useState<Change[] | null>(null)
  const [pulled, setPulled] = useState<Change[] | null>(null)
  const keptTrial = mayDecide ? (own ?? kept.data?.changes ?? NO_CHANGES) : NO_CHANGES
  const changes = useMemo(() => (pulled ? addChanges(keptTrial, pulled) : keptTrial), [keptTrial, pulled])

  const [clash, setClash] = useState<KeptTrial | null>(null)
  const clashes = useRef(clash)
  clashes.current = clash
  // The version that this window knows of: what another one kept since is not written over unseen.
  const version = useRef(0)
  const known = kept.data?.version
  useEffect(() => {
    if (known !== undefined) version.current = Math.max(version.current, known)
  }, [known])
  const waiting = useRef<{ changes: Change[]; timer: ReturnType<typeof setTimeout> } | null>(null)
  /** One after the other: each goes on top of the version that the one before it made. */
  const turn = useRef<Promise<unknown>>(Promise.resolve())
  const put = useCallback(
    async (changes: Change[], keepalive: boolean) => {
      if (clashes.current) return
      try {
        const done = await saving(call(routes.keepTrial, { params: { courseId }, body: { changes, version: version.current }, keepalive }))
        version.current = done.version
      } catch (e) {
        if (e instanceof ProblemError && e.problem.status === 409 && e.problem.current) setClash(e.problem.current as KeptTrial)
      }
    },
    [courseId, saving],
  )
  const send = useCallback(
    (leaving = false) => {
      if (!waiting.current) return
      const { changes: next, timer } = waiting.current
      clearTimeout(timer)
      waiting.current = null
      // A page that is being left may send only a little, and has no time to wait for its turn.
      if (leaving) void put(next, JSON.stringify(next).length < KEEPALIVE_LIMIT)
      else turn.current = turn.current.then(() => put(next, false))
    },
    [put],
  )
  const keep = useCallback(
    (next: Change[]) => {
      setOwn(next)
      clearTimeout(waiting.current?.timer)
      waiting.current = { changes: next, timer: setTimeout(() => send(), KEEP_AFTER_MS) }
    },
    [send],
  )
  useEffect(() => {
    const leave = () => send(true)
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      send()
    }
  }, [send])

  const latest = useRef(keptTrial)
  latest.current = keptTrial
  const setTrial = useCallback(
    (next: Change[], label: string) => {
      const before = latest.current
      setPulled(null)
      keep(next)
      did({ label, undo: () => keep(before), redo: () => keep(next) })
    },
    [keep, did],
  )
  const propose = useCallback((added: Change[], label: string) => setTrial(addChanges(latest.current, added), label), [setTrial])
  const discard = useCallback(() => setTrial([], 'discard the trial'), [setTrial])
  const refresh = useRefresh()
  const adopt = useCallback(
    async (reason: string) => {
      clearTimeout(waiting.current?.timer)
      waiting.current = null
      await turn.current
      const decision = await saving(
        call(routes.adopt, { params: { courseId }, body: { changes: latest.current, reason, trialVersion: version.current } }),
      ).catch((e: unknown) => {
        if (e instanceof ProblemError && e.problem.status === 409 && isKept(e.problem.current)) setClash(e.problem.current)
        throw e
      })
      version.current++
      // The trial stays in sight until what it became has arrived, so that nothing flickers back.
      await refresh()
      setOwn([])
      queries.setQueryData<KeptTrial>(['trial', courseId], { changes: [], version: version.current })
      did({
        label: `adopt: ${decision.summary}`,
        undo: async () => {
          await saving(call(routes.withdraw, { params: { courseId, decisionId: decision.id }, body: { reason: 'Undone' } }))
          keep(decision.changes)
          await refresh()
        },
        redo: async () => {
          await saving(call(routes.adopt, { params: { courseId }, body: { changes: decision.changes, reason } }))
          setOwn([])
          await refresh()
        },
      })
    },
    [courseId, saving, queries, refresh, did, keep],
  )
  const settleClash = useCallback(
    (whose: 'mine' | 'theirs') => {
      if (!clash) return
      version.current = clash.version
      clashes.current = null
      setClash(null)
      if (whose === 'mine') keep(latest.current)
      else setOwn(clash.changes)
    },
    [clash, keep],
  )
  const theirs = clash?.changes ?? null
  const value = useMemo(
    (): OpenTrial => ({
      courseId,
      changes,
      propose,
      setTrial,
      preview: setPulled,
      discard,
      adopt,
      clash: theirs,
      settleClash,
      refresh,
      mayDecide,
    }),
    [courseId, changes, propose, setTrial, discard, adopt, theirs, settleClash, refresh, mayDecide],
  )
  return <TrialContext value={value}>{children}</TrialContext>
}

const isKept = (current: unknown): current is KeptTrial => typeof current === 'object' && current !== null && 'changes' in current

export function useTrial(): OpenTrial {
  const trial = use(TrialContext)
  if (!trial) throw new Error('outside TrialProvider')
  return trial
}
