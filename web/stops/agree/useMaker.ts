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

/** How the makers that are on screen save, by name: undoing goes through the one that is there, not the one that was left. */
const onScreen = new Map<string, (standard: Standard, over?: number) => void>()
/** How often something made elsewhere was taken over, by name: undoing over that is asked about. */
const takenOver = new Map<string, number>()
/** A revision that none has. */
const NONE = 0

/**
 * One entry of the library being made: what is on screen is ahead of what is saved. Where an edit makes a new version, `onMoved` is
 * told its id.
 */
export function useMaker<K extends Standard['kind']>(
  courseId: string,
  entry: { id: string; lineId: string; revision: number; standard: Of<K> },
  onMoved: (id: string) => void,
): Maker<K> {
  const queries = useQueryClient()
  const me = useSignedIn()
  const { did } = useUndo()
  const name = `level-table-making ${courseId} ${entry.lineId} ${me.id}`
  const kept = useMemo(() => keptList(name, Made), [name])
  const [first] = useState(() => begin(entry, kept.read()[0]))
  const [shown, setShown] = useState(first.shown as Of<K>)
  const latest = useRef(shown)
  const at = useRef({ id: entry.id, revision: entry.revision })
  /** Versions that an edit here has replaced. */
  const left = useRef(new Set<string>())

  const [outbox, { problem, clash, waiting }] = useOutbox<Made, { id: string; revision: number }, number>(
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
        if (moved) left.current.add(at.current.id)
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
    (standard: Of<K>, over = at.current.revision) => {
      latest.current = standard
      setShown(standard)
      outbox.put([{ revision: over, standard }])
    },
    [outbox],
  )
  const change = useCallback(
    (standard: Of<K>, label: string) => {
      const before = latest.current
      save(standard)
      const taken = takenOver.get(name)
      const again = (as: Of<K>) =>
        ((onScreen.get(name) as typeof save | undefined) ?? save)(as, takenOver.get(name) === taken ? undefined : NONE)
      did({ label, undo: () => again(before), redo: () => again(standard) })
    },
    [save, did, name],
  )
  useEffect(() => {
    const own = save as (standard: Standard, over?: number) => void
    onScreen.set(name, own)
    return () => {
      if (onScreen.get(name) === own) onScreen.delete(name)
    }
  }, [name, save])

  // Where nothing of one's own waits, what stands is what is shown: somebody else's, or what was undone after one had left.
  const idle = waiting.size === 0
  useEffect(() => {
    if (!idle || left.current.has(entry.id)) return
    if (entry.id === at.current.id && entry.revision <= at.current.revision) return
    at.current = { id: entry.id, revision: entry.revision }
    takenOver.set(name, (takenOver.get(name) ?? 0) + 1)
    latest.current = entry.standard
    setShown(entry.standard)
  }, [idle, name, entry.id, entry.revision, entry.standard])
  const settleClash = (whose: 'mine' | 'theirs') => {
    // Of theirs, whatever comes is another than what is shown.
    if (clash !== null) at.current = { ...at.current, revision: whose === 'mine' ? clash : NONE }
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
