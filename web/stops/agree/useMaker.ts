import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { routes, type Standard } from '#contract'
import { call, isStill, messageOf, OfflineError, ProblemError } from '../../api/client'
import { useSignedIn } from '../../session/ahead'
import { useSaved } from '../../saving/saved'
import { useUndo } from '../../saving/undo'

type Of<K extends Standard['kind']> = Extract<Standard, { kind: K }>

const RETRY_MS = 3000

export interface Maker<K extends Standard['kind']> {
  title: string
  body: Of<K>['body']
  /** Changes it at once on screen and saves it after what is being saved; undoable. */
  edit: (body: Of<K>['body'], label: string) => void
  rename: (title: string) => void
  problem: string | null
  /** It was changed in another window: nothing is sent until one has chosen which of the two stands. */
  clash: boolean
  settleClash: (whose: 'mine' | 'theirs') => void
}

/** The revision that stands on the server, where it is not the one that was edited. */
const revisionThere = (e: unknown): number | null => {
  const current = e instanceof ProblemError ? (e.problem.current as { revision?: number } | undefined) : undefined
  return current?.revision ?? null
}

/**
 * One entry of the library being made: what is on screen is ahead of what is saved, and saves follow one another. With the
 * server away it is sent when it is back. Where an edit makes a new version, `onMoved` is told its id.
 */
export function useMaker<K extends Standard['kind']>(
  courseId: string,
  entry: { id: string; revision: number; standard: Of<K> },
  onMoved: (id: string) => void,
): Maker<K> {
  const queries = useQueryClient()
  const { saving, typed } = useSaved()
  const me = useSignedIn()
  const { did } = useUndo()
  const [shown, setShown] = useState(entry.standard)
  const [problem, setProblem] = useState<string | null>(null)
  const [there, setThere] = useState<number | null>(null)
  const latest = useRef(entry.standard)
  const saved = useRef(entry.standard)
  const at = useRef({ id: entry.id, revision: entry.revision })
  const held = useRef(false)
  const chain = useRef(Promise.resolve())
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)

  const send = useCallback(
    (standard: Of<K>) => {
      clearTimeout(timer.current)
      // Said to be saving from now on, not only when its turn comes.
      const turn = saving(
        chain.current.then(() => {
          if (held.current || !isStill(me.id)) throw new Error('Nothing is saved until you have chosen which of the two stands.')
          const body = { revision: at.current.revision, standard: standard as Standard }
          return call(routes.editStandard, { params: { courseId, standardId: at.current.id }, body })
        }),
      )
      chain.current = turn.then(
        async (done) => {
          const moved = done.id !== at.current.id
          at.current = done
          saved.current = standard
          setProblem(null)
          await queries.invalidateQueries({ queryKey: ['library'] })
          if (moved) onMoved(done.id)
        },
        (e: unknown) => {
          const revisionNow = revisionThere(e)
          if (revisionNow !== null) {
            held.current = true
            setThere(revisionNow)
          } else setProblem(messageOf(e))
          if (e instanceof OfflineError) timer.current = setTimeout(() => send(latest.current), RETRY_MS)
        },
      )
    },
    [courseId, me.id, saving, queries, onMoved],
  )
  const save = useCallback(
    (standard: Of<K>) => {
      latest.current = standard
      setShown(standard)
      send(standard)
    },
    [send],
  )
  const change = useCallback(
    (standard: Of<K>, label: string) => {
      const before = latest.current
      save(standard)
      did({ label, undo: () => save(before), redo: () => save(standard) })
    },
    [save, did],
  )

  const taking = useRef(false)
  useEffect(() => {
    if (!taking.current || entry.revision === at.current.revision) return
    taking.current = false
    at.current = { id: entry.id, revision: entry.revision }
    latest.current = saved.current = entry.standard
    setShown(entry.standard)
  }, [entry.id, entry.revision, entry.standard])
  const settleClash = (whose: 'mine' | 'theirs') => {
    if (there === null) return
    held.current = false
    setThere(null)
    setProblem(null)
    if (whose === 'mine') {
      at.current = { ...at.current, revision: there }
      return send(latest.current)
    }
    taking.current = true
    // Nothing of one's own waits any more.
    typed()()
    void queries.invalidateQueries({ queryKey: ['library'] })
  }
  useEffect(() => {
    const onLeave = (e: BeforeUnloadEvent) => {
      if (latest.current !== saved.current) e.preventDefault()
    }
    window.addEventListener('beforeunload', onLeave)
    return () => window.removeEventListener('beforeunload', onLeave)
  }, [])

  return {
    title: shown.title,
    body: shown.body as Of<K>['body'],
    edit: (body, label) => change({ ...latest.current, body } as Of<K>, label),
    rename: (title) => change({ ...latest.current, title }, 'rename it'),
    problem,
    clash: there !== null,
    settleClash,
  }
}
