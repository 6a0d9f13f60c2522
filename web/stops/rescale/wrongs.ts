import { METHOD_KINDS, TOTAL_KINDS, type MethodKind } from '#core/rescale'

/** What may be wrong with marks, and the ways that mend it. */
export const WRONGS = {
  any: { words: 'anything: all ways by name', kinds: METHOD_KINDS },
  question: { words: 'one question was unfair', kinds: ['without', 'grant'] },
  section: { words: 'a section sat an easier or a harder paper', kinds: ['matchMeanSd', 'matchDistribution'] },
  marker: { words: 'a marker is severe or generous', kinds: ['markerEffect'] },
  whole: { words: 'the whole was too hard or too easy', kinds: ['add', 'topTo', 'curve', 'line', 'multiply'] },
  scale: { words: 'it was marked on another scale', kinds: ['anotherMaximum'] },
} satisfies Record<string, { words: string; kinds: readonly MethodKind[] }>

export type Wrong = keyof typeof WRONGS

/** The ways offered, for the course percent or for marks. */
export const waysFor = (wrong: Wrong, total: boolean): readonly MethodKind[] => (total ? TOTAL_KINDS : WRONGS[wrong].kinds)
