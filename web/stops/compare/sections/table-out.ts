import type { Compared, ComparedGroup, ComparedSection } from '../../../parts/compared'
import type { TableOut } from '../../../parts/take-out/table-out'
import { verdict } from './verdict'

const round = (x: number | null | undefined): number | null => (x === null || x === undefined ? null : Number(x.toFixed(3)))

const isSection = (s: ComparedGroup | ComparedSection): s is ComparedSection => 'lean' in s

/** The comparison of sections as a table: every figure that is on the page. */
export const sectionsOut = ({ title, sections, everyone, tolerance }: Compared): TableOut => ({
  title: `${title} by section`,
  header: [
    'section',
    'teacher',
    'marked',
    'median',
    'mean',
    'sd',
    'passed',
    'not settled',
    'open',
    'lean',
    'lean from',
    'lean to',
    'p after Holm',
    'elsewhere',
    'lean given other work',
    'from',
    'to',
    'so',
  ],
  rows: [...sections, everyone].map((s) => {
    const own = isSection(s) ? s : null
    return [
      s.name,
      own?.teacher ?? null,
      s.figures.n,
      round(s.figures.median),
      round(s.figures.mean),
      round(s.figures.sd),
      s.passed,
      s.unsettled,
      s.open,
      round(own?.lean.difference),
      round(own?.lean.interval?.[0]),
      round(own?.lean.interval?.[1]),
      round(own?.lean.pHolm),
      round(own?.expected?.elsewhere),
      round(own?.expected?.lean),
      round(own?.expected?.interval[0]),
      round(own?.expected?.interval[1]),
      (own && verdict({ lean: own.lean.difference, interval: own.lean.interval }, own.expected, tolerance)?.words) ?? null,
    ]
  }),
})
