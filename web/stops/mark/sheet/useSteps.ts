import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useUndo, type Step } from '../../../saving/undo'
import type { CellValue } from '#core/marking'
import type { CellEdit } from './cell-queue'
import { keptSteps, type SheetStep } from './kept-steps'

const same = (a: CellValue, b: CellValue) => a.mark === b.mark && a.status === b.status && a.daysLate === b.daysLate

/**
 * Steps of work in the sheet, undone and redone in this sitting or a later one. A cell that was changed since, by
 * whomever, is left as it is.
 * @param valueOf what stands in a cell now, as far as this page knows
 */
export function useSteps(courseId: string, personId: string, write: (edits: CellEdit[]) => void, valueOf: (edit: CellEdit) => CellValue) {
  const { did, restore } = useUndo()
  const kept = useMemo(() => keptSteps(courseId, personId), [courseId, personId])
  const [left, setLeft] = useState(0)
  const latest = useRef({ write, valueOf })
  latest.current = { write, valueOf }

  const turn = useCallback((from: CellEdit[], to: CellEdit[]) => {
    const now = latest.current
    const still = to.filter((_, i) => same(now.valueOf(from[i]!), from[i]!))
    if (still.length > 0) now.write(still)
    setLeft(to.length - still.length)
  }, [])
  const asStep = useCallback(
    (step: SheetStep): Step => ({
      id: step.id,
      label: step.label,
      undo: () => {
        turn(step.after, step.before)
        kept.undid(step)
      },
      redo: () => {
        turn(step.before, step.after)
        kept.redid(step)
      },
    }),
    [turn, kept],
  )
  useEffect(() => {
    const { done, undone } = kept.read()
    restore(done.map(asStep), undone.map(asStep))
  }, [kept, asStep, restore])

  /** A step that was written another way, to be taken back like any other. */
  const remember = useCallback(
    (label: string, before: CellEdit[], after: CellEdit[]) => {
      const step: SheetStep = { id: crypto.randomUUID(), label, before, after }
      setLeft(0)
      kept.did(step)
      did(asStep(step))
    },
    [asStep, did, kept],
  )
  return {
    /** How many cells of the last undo or redo were left, since they had been changed meanwhile. */
    left,
    /** Writes edits as one step that can be taken back. */
    step: useCallback(
      (label: string, before: CellEdit[], after: CellEdit[]) => {
        latest.current.write(after)
        // Undone or done again later, it goes over what stands then.
        const values = after.map(({ readAt: _, ...edit }) => edit)
        remember(label, before, values)
      },
      [remember],
    ),
    remember,
  }
}
