import { useEffect, useState } from 'react'
import { methodOf, type Adjustment, type AdjustmentMethod, type Like, type MethodKind } from '#core/rescale'
import type { Change } from '#core/trial'
import { useCourse, useFigures } from '../../course/course'
import { firstDraft, firstMethod } from './first-draft'
import { AT_NONE } from './subject'

/** What is tried on a subject: adjustments begun, changed, switched, put in order, dropped. */
export function useRescaling(of: string | null) {
  const { table, propose, preview, setTrial, trial, mayDecide } = useCourse()
  // The first one is chosen once, from what is adopted: the screen must not jump while a trial moves means.
  const [first, setFirst] = useState<string | null>(null)
  const [lookedAt, setLookedAt] = useState<string | null>(null)
  const figures = useFigures('rescale', of ?? first, lookedAt)
  useEffect(() => {
    if (figures) setFirst((was) => was ?? figures.subject.assessmentId)
  }, [figures])
  const subject = figures?.subject
  // From the trial itself, not from what is worked out of it: the next key must step from here.
  const inTrial = (id: string | null) => {
    const c = trial.changes.findLast((x) => x.kind === 'adjust' && x.adjustment.id === id)
    return c?.kind === 'adjust' ? c.adjustment : undefined
  }
  const inStack = (id: string | null) => figures?.stack.find((s) => s.adjustment.id === id)?.adjustment
  const find = (id: string | null) => inTrial(id) ?? inStack(id) ?? null
  const chosen = lookedAt === AT_NONE ? null : (find(lookedAt) ?? find(figures?.chosenId ?? null))
  const isNew = chosen !== null && !table.adjustments.some((a) => a.id === chosen.id)

  const put = (a: Adjustment, label: string) => {
    setLookedAt(a.id)
    propose([{ kind: 'adjust', adjustment: a }], label)
  }
  const setMethod = (method: AdjustmentMethod) => chosen && put({ ...chosen, method }, `rescale ${subject!.title}`)
  return {
    table,
    mayDecide,
    figures,
    chosen,
    /** What is looked at is new in the trial, and another way can take its place. */
    isNew,
    look: setLookedAt,
    put,
    set: (patch: Partial<Adjustment>) => chosen && put({ ...chosen, ...patch }, `rescale ${subject!.title}`),
    setMethod,
    show: (method: AdjustmentMethod) => chosen && preview([{ kind: 'adjust', adjustment: { ...chosen, method } }]),
    /** Tries a way: in the place of what is tried, or as a new one. */
    start(kind: MethodKind, ready?: AdjustmentMethod) {
      if (!figures || !mayDecide) return
      const method = ready ?? firstMethod(kind, figures)
      const fresh = firstDraft(method, figures.subject)
      const own = chosen && isNew ? { ...fresh, id: chosen.id, sectionIds: chosen.sectionIds } : fresh
      put(own, `${methodOf(kind).title} on ${figures.subject.title}`)
    },
    /** Marks of a group as they go into what is looked at; null where none is named. */
    likeMarks(like: Like): number[] | null {
      if (!figures || like.group === 'typed' || like.group === 'year') return null
      const covered = chosen?.sectionIds ?? []
      return Object.entries(figures.bySection).flatMap(([id, marks]) =>
        (like.group === 'section' ? id === like.sectionId : !covered.includes(id)) ? marks : [],
      )
    },
    /** Takes what the trial says of an adjustment out of it again. */
    drop(id: string) {
      const says = (c: Change) => (c.kind === 'adjust' && c.adjustment.id === id) || (c.kind === 'switch' && c.adjustmentId === id)
      setLookedAt(null)
      setTrial(
        trial.changes.filter((c) => !says(c)),
        `drop the try on ${subject?.title}`,
      )
    },
    flip(a: Adjustment, on: boolean, adopted: boolean) {
      const label = `switch ${methodOf(a.method.kind).title} ${on ? 'on' : 'off'}`
      if (adopted === on)
        setTrial(
          trial.changes.filter((c) => c.kind !== 'switch' || c.adjustmentId !== a.id),
          label,
        )
      else propose([{ kind: 'switch', adjustmentId: a.id, on }], label)
    },
    order: (adjustmentIds: string[]) =>
      subject &&
      propose([{ kind: 'order', assessmentId: subject.assessmentId, adjustmentIds }], `order of adjustments of ${subject.title}`),
  }
}

export type Rescaling = ReturnType<typeof useRescaling>
