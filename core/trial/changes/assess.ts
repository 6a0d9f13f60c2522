import type { Assessment } from '../../grades/course'
import { patched, samePart, there, type ChangeKind } from './kind'

/** What an assessment counts for, and how. */
export interface Assess {
  kind: 'assess'
  assessmentId: string
  patch: Partial<Pick<Assessment, 'worth' | 'counts' | 'bonus' | 'droppable' | 'componentId'>>
}

const said = ({ worth, counts, bonus, droppable, componentId }: Assess['patch'], title: (id: string) => string): string[] =>
  [
    worth === undefined ? '' : `is worth ${worth}`,
    counts === undefined ? '' : counts ? 'counts' : 'does not count',
    bonus === undefined ? '' : bonus ? 'is a bonus' : 'is no bonus',
    droppable === undefined ? '' : droppable ? 'may be dropped' : 'may not be dropped',
    componentId === undefined ? '' : `moves to ${title(componentId)}`,
  ].filter(Boolean)

export const assess: ChangeKind<Assess> = {
  decides: 'weights',
  word: 'assessment',
  target: (c) => c.assessmentId,
  merge: (earlier, later) => ({ ...later, patch: { ...earlier.patch, ...later.patch } }),
  meets: samePart,
  apply(draft, c) {
    draft.assessments = patched(draft.assessments, c.assessmentId, c.patch)
  },
  check(c, { assessments, components }) {
    there(assessments, c.assessmentId, 'assessment')
    if (c.patch.componentId !== undefined) there(components, c.patch.componentId, 'component')
  },
  words: (all, { title }) => all.map((c) => `${title(c.assessmentId)} ${said(c.patch, title).join(', ')}`),
}
