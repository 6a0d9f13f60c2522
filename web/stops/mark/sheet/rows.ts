import type { SheetByCell } from '#contract'
import type { Cells } from './cells'

export const ONLY = {
  all: 'everyone',
  unmarked: 'with something unmarked',
  failed: 'below a pass mark',
  open: 'with readings to settle',
  apart: 'with readings too far apart',
  late: 'late',
  status: 'late, missing, absent or held',
} as const
export type Only = keyof typeof ONLY

export interface Wanted {
  sectionId: string
  only: Only
  /** Those who were carried here; null for no matter who. */
  carried?: ReadonlySet<string> | null
  /** The one assessment shown, by its place; null for all of them. */
  assessment: number | null
  /** The place of an assessment to sort by, its marks falling or rising. */
  sort: { column: number; down: boolean } | null
}

/** The students shown: of a section or all, for whom the one assessment is set, those of a kind, in the roll's order or by a column. Who has no mark comes last. */
export function rowsOf(
  students: SheetByCell['students'],
  assessments: SheetByCell['assessments'],
  cells: Cells,
  { sectionId, only, assessment, sort, carried }: Wanted,
): SheetByCell['students'] {
  const fits = (s: number, a: number): boolean => {
    if (!cells.isSet(s, a)) return false
    if (only === 'unmarked') return cells.isPending(s, a)
    if (only === 'open') return cells.isOpen(s, a)
    if (only === 'apart') return cells.isApart(s, a)
    const status = cells.status(s, a)
    if (only === 'late') return status === 'late'
    if (only === 'status') return status !== 'in' && status !== 'exempt'
    const mark = cells.mark(s, a)
    return mark !== null && assessments[a]!.passMark !== null && mark < assessments[a]!.passMark && (status === 'in' || status === 'late')
  }
  const isOne = (i: number): boolean => {
    if (assessment !== null) return only === 'all' ? cells.isSet(i, assessment) : fits(i, assessment)
    return only === 'all' || assessments.some((_, a) => fits(i, a))
  }
  const rows = students.filter((s, i) => (sectionId === '' || s.sectionId === sectionId) && (!carried || carried.has(s.id)) && isOne(i))
  if (!sort) return rows
  const by = new Map(rows.map((s) => [s.id, cells.mark(cells.placeOf(s.id), sort.column)]))
  return rows.sort((x, y) => {
    const [a, b] = [by.get(x.id)!, by.get(y.id)!]
    if (a === null || b === null) return Number(a === null) - Number(b === null)
    return sort.down ? b - a : a - b
  })
}
