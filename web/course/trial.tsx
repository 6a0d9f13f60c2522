import { hashKey, useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, use, useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { addChanges, changeTarget, type Change } from '#core/trial'
import { sightOf } from '#core/roles'
import { KeptTrial, routes, type CourseHead } from '#contract'
import { call, page, ProblemError } from '../api/client'
import { keptList } from '../saving/kept-list'
import { useOutbox } from '../saving/useOutbox'
import { useRefresh } from '../saving/refresh'
import { useSaved } from '../saving/saved'
import { useUndo } from '../saving/undo'

/** What was decided meanwhile and has been seen: the changes at these places replace it. */
interface Seen {
  places: readonly number[]
  version: number
}

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
  /** Hears of every next trial at once, before any screen is drawn anew. @returns an end to that */
  listen: (hears: (changes: readonly Change[]) => void) => () => void
  discard: () => void
  /** @param seen places of changes, and the version of the course that they are to replace something of */
  adopt: (reason: string, seen?: Seen) => Promise<void>
  /** The trial as another window of this person's left it, where both were changed; nothing is sent until one is chosen. */
  clash: Change[] | null
  settleClash: (whose: 'mine' | 'theirs') => void
  /** Fetches anew whatever a write to the course may have changed. */
  refresh: () => Promise<void>
  /** Whether this person may decide now. */
  mayDecide: boolean
}

/** Under which the course with all its marks is kept. */
export const tableKey = (courseId: string) => ['table', courseId]

const TrialContext = createContext<OpenTrial | null>(null)
const NO_CHANGES: Change[] = []
const KEEP_AFTER_MS = 400
const KEEPALIVE_LIMIT = 60_000

export function TrialProvider({ head, children }: { head: CourseHead; children: ReactNode }) {
  const courseId = head.id
  const queries = useQueryClient()
  const { saving } = useSaved()
  const { did } = useUndo()
  const mayDecide = sightOf(head.role).decides && head.confirmedIssue === null && head.awayAt === null
  const kept = useQuery({
    queryKey: ['trial', courseId],
    queryFn: () => call(routes.trial, { params: { courseId } }),
    enabled: sightOf(head.role).decides,
    staleTime: Infinity,
  })
  const [own, setOwn] = useState<Change[] | null>(null)
  const [pulled, setPulled] = useState<{ on: Change[]; pulled: Change[]; together: Change[] } | null>(null)
  const keptTrial = mayDecide ? (own ?? kept.data?.changes ?? NO_CHANGES) : NO_CHANGES
  const changes = useMemo(() => {
    if (!pulled) return keptTrial
    // What was heard ahead is what is drawn.
    return pulled.on === keptTrial ? pulled.together : addChanges(keptTrial, pulled.pulled)
  }, [keptTrial, pulled])

  // The version that this window knows of: what another one kept since is not written over unseen.
  const version = useRef(0)
  const [personId] = useState(page.personId ?? '')
  const name = `level-table-trial ${courseId} ${personId}`
  const unsent = useMemo(() => keptList(name, KeptTrial), [name])
  const put = (trial: KeptTrial, keepalive = false) => call(routes.keepTrial, { params: { courseId }, body: trial, keepalive })
  const [outbox, { clash }] = useOutbox<KeptTrial, { version: number }, KeptTrial>(name, personId, {
    nameOf: () => 'trial',
    after: KEEP_AFTER_MS,
    merge: (next, waiting) => ({ ...next, version: waiting.version }),
    send: ([trial]) => put(trial!),
    // A page that is being left may send only a little.
    leave: ([trial]) => void put(trial!, JSON.stringify(trial).length < KEEPALIVE_LIMIT).catch(() => undefined),
    rebase: (next, _, done) => ({ ...next, version: done.version }),
    answered: (done) => void (version.current = done.version),
    conflict(e, sent) {
      const there = keptThere(e)
      if (!there) return null
      // It had arrived after all.
      return sameChanges(there, sent) ? { again: { ...sent, version: there.version } } : { there }
    },
    refused: () => undefined,
    keep: unsent.keep,
  })
  const [listeners] = useState(() => new Set<(changes: readonly Change[]) => void>())
  const listen = useCallback<OpenTrial['listen']>(
    (hears) => {
      listeners.add(hears)
      return () => listeners.delete(hears)
    },
    [listeners],
  )
  // By what it is about, the version of the course that each change was first tried on.
  const triedOn = useRef(new Map<string, number | null>())
  const sinceOf = useCallback(
    (next: readonly Change[]): (number | null)[] => {
      const on = queries.getQueryData<{ table: { version: number } }>(tableKey(courseId))?.table.version ?? null
      triedOn.current = new Map(next.map((c) => [changeTarget(c), triedOn.current.get(changeTarget(c)) ?? on]))
      return [...triedOn.current.values()]
    },
    [queries, courseId],
  )
  const keep = useCallback(
    (next: Change[]) => {
      for (const hears of listeners) hears(next)
      setOwn(next)
      outbox.put([{ changes: next, since: sinceOf(next), version: version.current }])
    },
    [outbox, listeners, sinceOf],
  )
  const remember = useCallback(({ changes, since }: KeptTrial) => {
    triedOn.current = new Map(changes.map((c, i) => [changeTarget(c), since?.[i] ?? null]))
  }, [])
  const { data: there } = kept
  useEffect(() => {
    if (!there) return
    const first = version.current === 0
    version.current = Math.max(version.current, there.version)
    const left = first ? unsent.read()[0] : undefined
    if (first) remember(left ?? there)
    if (!left || sameChanges(left, there)) return
    setOwn(left.changes)
    outbox.restore([left], left.version === there.version ? null : there)
  }, [there, unsent, outbox, remember])

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
  const preview = useCallback<OpenTrial['preview']>(
    (next) => {
      if (!next) return setPulled(null)
      const together = addChanges(latest.current, next)
      for (const hears of listeners) hears(together)
      setPulled({ on: latest.current, pulled: next, together })
    },
    [listeners],
  )
  const propose = useCallback((added: Change[], label: string) => setTrial(addChanges(latest.current, added), label), [setTrial])
  const discard = useCallback(() => setTrial([], 'discard the trial'), [setTrial])
  const anew = useRefresh()
  const refresh = useCallback(() => anew({ courseId }), [anew, courseId])
  const adopt = useCallback(
    async (reason: string, seen?: Seen) => {
      await outbox.cancel()
      for (const place of seen?.places ?? []) triedOn.current.set(changeTarget(latest.current[place]!), seen!.version)
      const body = { changes: latest.current, since: sinceOf(latest.current), reason, trialVersion: version.current }
      const decision = await saving(call(routes.adopt, { params: { courseId }, body })).catch((e: unknown) => {
        const there = keptThere(e)
        if (there) outbox.hold(there)
        throw e
      })
      version.current++
      // The trial stays in sight until what it became has arrived, so that nothing flickers back.
      await refresh()
      triedOn.current = new Map()
      setOwn([])
      queries.setQueryData<KeptTrial>(['trial', courseId], { changes: [], version: version.current })
      // Each redo makes a decision of its own, which is the one that the next undo withdraws.
      let standing = decision
      did({
        label: `adopt: ${decision.summary}`,
        undo: async () => {
          await saving(call(routes.withdraw, { params: { courseId, decisionId: standing.id }, body: { reason: 'Undone' } }))
          await refresh()
          keep(standing.changes)
        },
        redo: async () => {
          await outbox.cancel()
          const { changes } = standing
          standing = await saving(call(routes.adopt, { params: { courseId }, body: { changes, since: sinceOf(changes), reason } }))
          keep([])
          await refresh()
        },
      })
    },
    [courseId, saving, queries, refresh, did, keep, outbox, sinceOf],
  )
  const settleClash = useCallback(
    (whose: 'mine' | 'theirs') => {
      if (!clash) return
      version.current = clash.version
      outbox.settle(whose, (trial) => ({ ...trial, version: clash.version }))
      if (whose === 'mine') keep(latest.current)
      else {
        remember(clash)
        setOwn(clash.changes)
      }
    },
    [clash, keep, outbox, remember],
  )
  const theirs = clash?.changes ?? null
  const value = useMemo(
    (): OpenTrial => ({
      courseId,
      changes,
      propose,
      setTrial,
      preview,
      listen,
      discard,
      adopt,
      clash: theirs,
      settleClash,
      refresh,
      mayDecide,
    }),
    [courseId, changes, propose, setTrial, preview, listen, discard, adopt, theirs, settleClash, refresh, mayDecide],
  )
  return <TrialContext value={value}>{children}</TrialContext>
}

const sameChanges = (a: KeptTrial, b: KeptTrial) => hashKey([a.changes]) === hashKey([b.changes])
/** The trial that stands on the server, where another window was faster. */
const keptThere = (e: unknown): KeptTrial | null =>
  e instanceof ProblemError && e.problem.status === 409 ? (KeptTrial.safeParse(e.problem.current).data ?? null) : null

export function useTrial(): OpenTrial {
  const trial = use(TrialContext)
  if (!trial) throw new Error('outside TrialProvider')
  return trial
}
