import type { TableOut } from '../../../parts/take-out/table-out'
import type { LeansByCriterion } from '../criteria/figures'
import type { ComparedMarkers } from './figures'

const round = (x: number | null | undefined): number | null => (x === null || x === undefined ? null : Number(x.toFixed(3)))

/** The comparison of markers as a table: every figure that is on the page. */
export const markersOut = ({ title, markers }: ComparedMarkers, leans: LeansByCriterion | undefined): TableOut => ({
  title: `${title} by marker`,
  header: [
    'marker',
    'read',
    'shared',
    'lean',
    'from',
    'to',
    'own spread',
    'group',
    ...(leans?.criteria.map((c) => `lean: ${c.title}`) ?? []),
  ],
  rows: markers.map((m) => [
    m.name,
    m.n,
    m.shared,
    round(m.lean),
    round(m.interval?.[0]),
    round(m.interval?.[1]),
    round(m.ownSpread),
    m.group + 1,
    ...(leans?.criteria.map((_, k) => round(leans.leans[m.id]?.[k]?.effect)) ?? []),
  ]),
})
