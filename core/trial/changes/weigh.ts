import { patched, there, type ChangeKind } from './kind'

/** What a component weighs. */
export interface Weigh {
  kind: 'weigh'
  componentId: string
  weight: number
}

export const weigh: ChangeKind<Weigh> = {
  decides: 'weights',
  word: 'weight',
  several: 'weights',
  target: (c) => c.componentId,
  apply(draft, { componentId, weight }) {
    draft.components = patched(draft.components, componentId, { weight })
  },
  check: (c, { components }) => there(components, c.componentId, 'component'),
  words: (all, { title }) => all.map((c) => `${title(c.componentId)} weighs ${c.weight}`),
}
