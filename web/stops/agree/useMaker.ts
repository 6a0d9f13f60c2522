import { hashKey, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { routes, Standard } from '#contract'
import { z } from 'zod'
import { call, messageOf, ProblemError } from '../../api/client'
import { keptList } from '../../saving/kept-list'
import { useUndo } from '../../saving/undo'
import { useOutbox } from '../../saving/useOutbox'
import { useSignedIn } from '../../session/ahead'

type Of<K extends Standard['kind']> = Extract<Standard, { kind: K }>

/** An entry as it was made here, and the revision that it was made from. */
const Made = z.strictObject({ revision: z.number().int(), standard: Standard })
type Made = z.infer<typeof Made>

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

/** What one begins with: the entry as it is, or what was made of it here and has not reached the server. */
function begin(entry: { revision: number; standard: Standard }, kept: Made | undefined) {
  if (!kept || hashKey([kept.standard]) === hashKey([entry.standard])) return { shown: entry.standard, entries: [], clash: null }
  return { shown: kept.standard, entries: [kept], clash: kept.revision === entry.revision ? null : entry.revision }
}

/**
 * One entry of the library being made: what is on screen is ahead of what is saved. Where an edit makes a new version, `onMoved` is
 * told its id.
 */
export function useMaker<K extends Standard['kind']>(
  courseId: string,
  entry: { id: string; revision: number; standard: Of<K> },
  onMoved: (id: string) => void,
): Maker<K> {
  const queries = useQueryClient()
  const me = useSignedIn()
  const { did } = useUndo()
  const name = `level-table-making ${courseId} ${entry.id} ${me.id}`
  const kept = useMemo(() => keptList(name, Made), [name])
  const [first] = useState(() => begin(entry, kept.read()[0]))
  const [shown, setShown] = useState(first.shown as Of<K>)
  const latest = useRef(shown)
  const at = useRef({ id: entry.id, revision: entry.revision })

  const [outbox, { problem, clash }] = useOutbox<Made, { id: string; revision: number }, number>(
    name,
    me.id,
    {
      nameOf: () => 'entry',
      after: 0,
      merge: (next, waiting) => ({ ...next, revision: waiting.revision }),
      send: ([made]) => call(routes.editStandard, { params: { courseId, standardId: at.current.id }, body: made! }),
      rebase: (next, _, { revision }) => ({ ...next, revision }),
      async answered(done) {
        const moved = done.id !== at.current.id
        at.current = done
        await queries.invalidateQueries({ queryKey: ['library'] })
        if (moved) onMoved(done.id)
      },
      conflict(e) {
        const there = revisionThere(e)
        return there === null ? null : { there }
      },
      keep: kept.keep,
    },
    () => first,
  )

  const save = useCallback(
    (standard: Of<K>) => {
      latest.current = standard
      setShown(standard)
      outbox.put([{ revision: at.current.revision, standard }])
    },
    [outbox],
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
    latest.current = entry.standard
    setShown(entry.standard)
  }, [entry.id, entry.revision, entry.standard])
  const settleClash = (whose: 'mine' | 'theirs') => {
    taking.current = whose === 'theirs'
    if (whose === 'mine' && clash !== null) at.current = { ...at.current, revision: clash }
    outbox.settle(whose, (made, revision) => ({ ...made, revision }))
    if (whose === 'theirs') void queries.invalidateQueries({ queryKey: ['library'] })
  }

  return {
    title: shown.title,
    body: shown.body as Of<K>['body'],
    edit: (body, label) => change({ ...latest.current, body } as Of<K>, label),
    rename: (title) => change({ ...latest.current, title }, 'rename it'),
    problem: problem === null || clash !== null ? null : messageOf(problem),
    clash: clash !== null,
    settleClash,
  }
}
