import { CellWrite } from '#contract'
import { z } from 'zod'
import { afterDrawing } from '../../../saving/after-drawing'
import { vault } from '../../../saving/vault'
import { keepFitting } from '../../../saving/keep-fitting'

const Edit = CellWrite.omit({ version: true })
const Step = z.strictObject({ id: z.string(), label: z.string(), before: z.array(Edit), after: z.array(Edit) })
const Kept = z.strictObject({ done: z.array(Step), undone: z.array(Step) })
/** A step of work in the sheet: what the cells were, and what they became. */
export type SheetStep = z.infer<typeof Step>

const STEPS = 100
/** A step larger than this is undone in its own sitting only. */
const CELLS = 3000

/** A person's steps in the sheet of a course, kept in the browser so that they can be undone on another day. */
export function keptSteps(courseId: string, personId: string) {
  const key = `level-table-steps ${courseId} ${personId}`
  const read = (): z.infer<typeof Kept> => {
    try {
      return Kept.parse(JSON.parse(vault.get(key) ?? 'null'))
    } catch {
      return { done: [], undone: [] }
    }
  }
  const keep = ({ done, undone }: z.infer<typeof Kept>) => {
    // What was undone goes first where the browser has no room, then what was done longest ago.
    const all = [
      ...undone.slice(-STEPS).map((step) => ({ step, was: 'undone' })),
      ...done.slice(-STEPS).map((step) => ({ step, was: 'done' })),
    ]
    const steps = (list: readonly (typeof all)[number][], was: string) => list.filter((s) => s.was === was).map((s) => s.step)
    keepFitting(key, all, (list) => JSON.stringify({ done: steps(list, 'done'), undone: steps(list, 'undone') }))
  }
  /** A step is on screen before the browser keeps it. */
  const after = (step: SheetStep, kept: (before: z.infer<typeof Kept>) => z.infer<typeof Kept>) => {
    if (step.after.length <= CELLS) afterDrawing(() => keep(kept(read())))
  }
  const without = (list: SheetStep[], step: SheetStep) => list.filter((s) => s.id !== step.id)
  return {
    read,
    did: (step: SheetStep): void => after(step, ({ done }) => ({ done: [...done, step], undone: [] })),
    undid: (step: SheetStep): void => after(step, ({ done, undone }) => ({ done: without(done, step), undone: [...undone, step] })),
    redid: (step: SheetStep): void => after(step, ({ done, undone }) => ({ done: [...done, step], undone: without(undone, step) })),
  }
}
