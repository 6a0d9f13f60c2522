import type { Compared, ComparedGroup, ComparedSection } from '../../../parts/compared'
import { figure, type TableOut } from '../../../parts/take-out/table-out'

const isSection = (s: ComparedGroup | ComparedSection): s is ComparedSection => 'lean' in s

/** The comparison of sections as a table: every figure that is on the page. */
export const sectionsOut = ({ title, sections, everyone }: Compared): TableOut => ({
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
      figure(s.figures.median),
      figure(s.figures.mean),
      figure(s.figures.sd),
      s.passed,
      s.unsettled,
      s.open,
      figure(own?.lean.difference),
      figure(own?.lean.interval?.[0]),
      figure(own?.lean.interval?.[1]),
      figure(own?.lean.pHolm),
      figure(own?.expected?.elsewhere),
      figure(own?.expected?.againstOthers.difference),
      figure(own?.expected?.againstOthers.interval[0]),
      figure(own?.expected?.againstOthers.interval[1]),
      own?.says?.words ?? null,
    ]
  }),
})
