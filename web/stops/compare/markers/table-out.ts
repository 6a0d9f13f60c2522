import { figure, type TableOut } from '../../../parts/take-out/table-out'
import type { LeansByCriterion } from '../criteria/figures'
import type { ComparedMarkers } from './figures'

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
    'own spread from',
    'own spread to',
    'group',
    ...(leans?.criteria.map((c) => `lean: ${c.title}`) ?? []),
  ],
  rows: markers.map((m) => [
    m.name,
    m.n,
    m.shared,
    figure(m.lean),
    figure(m.interval?.[0]),
    figure(m.interval?.[1]),
    figure(m.fit.spread),
    figure(m.fit.interval?.[0]),
    figure(m.fit.interval?.[1]),
    m.group + 1,
    ...(leans?.criteria.map((_, k) => figure(leans.leans[m.id]?.[k]?.effect)) ?? []),
  ]),
})
