import type { Component } from '../../grades/course'
import { patched, samePart, there, type ChangeKind } from './kind'

/** How a component is put together of its assessments. */
export interface Shape {
  kind: 'shape'
  componentId: string
  patch: Partial<Pick<Component, 'combine' | 'dropLowest' | 'bonus'>>
}

const said = ({ combine, dropLowest, bonus }: Shape['patch']): string[] =>
  [
    combine === undefined ? '' : combine === 'equally' ? 'counts all alike' : 'counts by worth',
    dropLowest === undefined ? '' : dropLowest === 0 ? 'drops none' : `drops the worst ${dropLowest === 1 ? 'one' : dropLowest}`,
    bonus === undefined ? '' : bonus ? 'is a bonus' : 'is no bonus',
  ].filter(Boolean)

export const shape: ChangeKind<Shape> = {
  decides: 'weights',
  word: 'component',
  several: 'components',
  target: (c) => c.componentId,
  merge: (earlier, later) => ({ ...later, patch: { ...earlier.patch, ...later.patch } }),
  meets: samePart,
  apply(draft, c) {
    draft.components = patched(draft.components, c.componentId, c.patch)
  },
  check: (c, { components }) => there(components, c.componentId, 'component'),
  words: (all, { title }) => all.map((c) => `${title(c.componentId)} ${said(c.patch).join(', ')}`),
}
