import { likeInWords, methodOf, type Adjustment, type AdjustmentMethod, type MethodKind, type OfKind } from '#core/rescale'
import { useDecidedCourse } from '../../../course/course'
import { numeral, share, signed } from '../../../parts/format'

interface Names {
  section: (id: string) => string
  marker: (id: string) => string
}

/** What a way is called once its figures are known; its title alone where it has none. */
const WORDS: { [K in MethodKind]: (method: OfKind<K>, names: Names) => string } = {
  add: ({ by }) => `add the same, ${signed(by)}`,
  multiply: ({ by }) => `multiply by ${numeral(by)}`,
  topTo: ({ to }) => `top to ${numeral(to)}`,
  line: () => methodOf('line').title,
  curve: () => methodOf('curve').title,
  matchMeanSd: ({ like }, { section }) => `mean and spread of ${likeInWords(like, section)}`,
  matchDistribution: ({ like }, { section }) => `distribution of ${likeInWords(like, section)}`,
  anotherMaximum: ({ from, to }) => `out of ${numeral(from)} to out of ${numeral(to)}`,
  markerEffect: ({ markerId, effect, factor }, { marker }) =>
    `lean of ${marker(markerId)}, ${signed(effect)}${factor === 1 ? '' : `, at ${share(factor)}`}`,
  without: () => methodOf('without').title,
  grant: () => methodOf('grant').title,
}

const wordsOf = (method: AdjustmentMethod, names: Names): string =>
  (WORDS[method.kind] as (method: AdjustmentMethod, names: Names) => string)(method, names)

/** An adjustment in words: its way with its figures, and for whom it is. */
export function useWords(): (a: Pick<Adjustment, 'method' | 'sectionIds'>) => string {
  const { table } = useDecidedCourse()
  const nameIn = (list: readonly { id: string; name: string }[]) => (id: string) => list.find((x) => x.id === id)?.name ?? id
  const names = { section: nameIn(table.sections), marker: nameIn(table.markers) }
  return ({ method, sectionIds }) => `${wordsOf(method, names)}${sectionIds ? `, ${sectionIds.map(names.section).join(', ')}` : ''}`
}
