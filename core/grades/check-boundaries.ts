import type { Boundary, CourseResult, Policy } from './course'
import type { GradeTable } from './grade-table'
import { wholePercents } from './whole-percents'

export interface BoundaryFinding {
  /** Index of the row in the list, or null when it is about the whole set. */
  row: number | null
  kind: 'empty' | 'name' | 'double name' | 'number' | 'range' | 'order' | 'lowest' | 'fractions' | 'condition'
  message: string
  /** The set with the finding mended, where that can be offered. */
  fix: Boundary[] | null
}

/**
 * What is wrong with a set of boundaries, listed from the best grade to the worst. Empty when all is well.
 * @param above100 whether percents above 100 are allowed, and limits up to 1000 with them
 */
export function checkBoundaries(boundaries: Boundary[], above100: Policy['above100'] = 'cap'): BoundaryFinding[] {
  const findings: BoundaryFinding[] = []
  const add = (row: number | null, kind: BoundaryFinding['kind'], message: string, fix: Boundary[] | null = null) =>
    findings.push({ row, kind, message, fix })
  if (boundaries.length === 0) {
    add(null, 'empty', 'There are no boundaries yet. Give each grade the lowest percent that reaches it.')
    return findings
  }
  const top = above100 === 'allow' ? 1000 : 100
  const limits = boundaries.map((b) => b.from)
  if (limits.length > 1 && limits.every((x) => Number.isFinite(x) && x >= 0 && x <= 1) && limits.some((x) => x > 0))
    add(
      null,
      'fractions',
      `The limits look like fractions (${limits.join(', ')}). Boundaries are percents: ${hundredfold(limits[0]!)} in place of ${limits[0]}.`,
      boundaries.map((b) => ({ ...b, from: hundredfold(b.from) })),
    )
  else {
    // Typed one after another, some stand as fractions beside percents: with those alone made percents the set is in order.
    const mended = boundaries.map((b) => (b.from > 0 && b.from <= 1 ? { ...b, from: hundredfold(b.from) } : b))
    const some = boundaries.find((b, i) => mended[i] !== b)
    if (some && !falls(limits) && falls(mended.map((b) => b.from)))
      add(
        null,
        'fractions',
        `${some.grade}: ${some.from} looks like a fraction. Boundaries are percents: ${hundredfold(some.from)}.`,
        mended,
      )
  }
  const seen = new Map<string, number>()
  boundaries.forEach(({ grade, from }, row) => {
    const name = grade.trim().toLowerCase()
    if (name === '') add(row, 'name', `Row ${row + 1} has no grade name.`)
    else if (seen.has(name)) add(row, 'double name', `Row ${row + 1}: the grade ${grade} already stands in row ${seen.get(name)! + 1}.`)
    else seen.set(name, row)
    const label = grade.trim() || `row ${row + 1}`
    if (typeof from !== 'number' || !Number.isFinite(from)) add(row, 'number', `${label}: the limit must be a number of percent.`)
    else if (from < 0 || from > top) add(row, 'range', `${label}: ${from} is outside 0 to ${top}.`)
    else if (row > 0 && from >= limits[row - 1]!) {
      const above = boundaries[row - 1]!
      add(
        row,
        'order',
        from === above.from
          ? `${label} begins at ${from}, the same as ${above.grade}: nobody could get it.`
          : `${label} begins at ${from}, above ${above.grade} at ${above.from}. Limits fall from the best grade to the worst.`,
      )
    }
  })
  const last = boundaries.at(-1)!
  if (Number.isFinite(last.from) && last.from !== 0)
    add(
      boundaries.length - 1,
      'lowest',
      `${last.grade || 'The lowest grade'} must begin at 0, so that everyone gets a grade.`,
      boundaries.map((b, i) => (i === boundaries.length - 1 ? { ...b, from: 0 } : b)),
    )
  return findings
}

/** Whether two sets have the same grades, which begin at the same percents. */
export const isSameSet = (a: readonly Boundary[], b: readonly Boundary[]): boolean =>
  a.length === b.length && a.every((x, i) => x.grade === b[i]!.grade && x.from === b[i]!.from)

const falls = (limits: readonly number[]) => limits.every((x, i) => i === 0 || x < limits[i - 1]!)

/** 100 times a fraction, as the decimal a person means: 0.895 → 89.5. */
const hundredfold = (x: number) => Number((x * 100).toFixed(6))

/** Students per grade in boundary order, with zeros shown; those without a final or a grade are not counted. */
export const gradeCounts = ({ students, boundaries }: Pick<CourseResult, 'students' | 'boundaries'>): GradeCount[] =>
  counted(
    boundaries,
    students.map((s) => s.grade),
  )

/** The same of grades in columns. @param table places in boundaries of its own order */
export const countsOfTable = (boundaries: readonly Boundary[], table: Pick<GradeTable, 'grade' | 'boundaries'>): GradeCount[] =>
  counted(
    boundaries,
    Array.from(table.grade, (place) => table.boundaries[place]?.grade ?? null),
  )

export interface GradeCount {
  grade: string
  count: number
  /** The share in whole percents; those of all grades add up to 100. */
  percent: number
}

function counted(boundaries: readonly Boundary[], grades: readonly (string | null)[]): GradeCount[] {
  const counts = new Map(boundaries.map((b) => [b.grade, 0]))
  for (const grade of grades) if (grade !== null) counts.set(grade, (counts.get(grade) ?? 0) + 1)
  const percents = wholePercents([...counts.values()])
  return [...counts].map(([grade, count], i) => ({ grade, count, percent: percents[i]! }))
}
