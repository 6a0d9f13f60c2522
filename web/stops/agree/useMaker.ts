import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useRef, useState } from 'react'
import { routes, type Standard } from '#contract'
import { call, messageOf } from '../../api/client'
import { useSaved } from '../../frame/saved'
import { useUndo } from '../../frame/undo'

type Of<K extends Standard['kind']> = Extract<Standard, { kind: K }>

export interface Maker<K extends Standard['kind']> {
  title: string
  body: Of<K>['body']
  /** Changes it at once on screen and saves it after what is being saved; undoable. */
  edit: (body: Of<K>['body'], label: string) => void
  rename: (title: string) => void
  problem: string | null
}

/**
 * One entry of the library being made: what is on screen is ahead of what is saved, and saves follow one another. Where an edit
 * makes a new version, `onMoved` is told its id.
 */
export function useMaker<K extends Standard['kind']>(
  courseId: string,
  entry: { id: string; revision: number; standard: Of<K> },
  onMoved: (id: string) => void,
): Maker<K> {
  const queries = useQueryClient()
  const { saving } = useSaved()
  const { did } = useUndo()
  const [shown, setShown] = useState(entry.standard)
  const [problem, setProblem] = useState<string | null>(null)
  const latest = useRef(entry.standard)
  const at = useRef({ id: entry.id, revision: entry.revision })
  const chain = useRef(Promise.resolve())

  const save = useCallback(
    (standard: Of<K>) => {
      latest.current = standard
      setShown(standard)
      const send = chain.current.then(() => {
        const { id, revision } = at.current
        return call(routes.editStandard, { params: { courseId, standardId: id }, body: { revision, standard: standard as Standard } })
      })
      chain.current = saving(send).then(
        async (done) => {
          const moved = done.id !== at.current.id
          at.current = done
          setProblem(null)
          await queries.invalidateQueries({ queryKey: ['library'] })
          if (moved) onMoved(done.id)
        },
        (e: unknown) => setProblem(messageOf(e)),
      )
    },
    [courseId, saving, queries, onMoved],
  )
  const change = useCallback(
    (standard: Of<K>, label: string) => {
      const before = latest.current
      save(standard)
      did({ label, undo: () => save(before), redo: () => save(standard) })
    },
    [save, did],
  )
  return {
    title: shown.title,
    body: shown.body as Of<K>['body'],
    edit: (body, label) => change({ ...latest.current, body } as Of<K>, label),
    rename: (title) => change({ ...latest.current, title }, 'rename it'),
    problem,
  }
}
