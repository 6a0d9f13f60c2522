import { FileError, readDelimited, type FileTable } from '#core/exchange/delimited'
import { numeral, typedNumber } from '../../../parts/format'
import type { Point } from '#core/rescale'

/** Points that a curve can have. */
const MOST = 50
/** On a straight line within this, a point between two others says nothing. */
const STRAIGHT = 1e-9

/**
 * The map in a file of marks and what they become, as the fewest points that say the same.
 * @param outOf what the marks are out of
 */
export function mapOfFile(text: string, outOf: number): { points: Point[] | null; problem: string | null } {
  const refused = (problem: string) => ({ points: null, problem })
  let rows: FileTable['rows']
  try {
    rows = readDelimited(text).rows
  } catch (e) {
    if (e instanceof FileError) return refused(e.message)
    throw e
  }
  const points: Point[] = []
  for (const { line, cells } of rows) {
    const [x, y] = [typedNumber(cells[0] ?? ''), typedNumber(cells[1] ?? '')]
    if (x === null || y === null) return refused(`Line ${line}: a mark and what it becomes, two numbers.`)
    const before = points.at(-1)
    if (before && x <= before[0]) return refused(`Line ${line}: ${x} is not above the mark before it.`)
    if (before && y < before[1]) return refused(`Line ${line}: a higher mark would become a lower one.`)
    points.push([x, y])
  }
  if (points.length < 2) return refused('The file needs two lines or more: a mark and what it becomes.')
  if (points.at(-1)![0] > outOf) return refused(`Its marks go up to ${numeral(points.at(-1)![0])}, and these are out of ${numeral(outOf)}.`)
  const fewest = points.filter((p, i) => {
    const [a, b] = [points[i - 1], points[i + 1]]
    return !a || !b || Math.abs((p[1] - a[1]) * (b[0] - p[0]) - (b[1] - p[1]) * (p[0] - a[0])) > STRAIGHT
  })
  if (fewest.length > MOST) return refused(`That map bends ${fewest.length} times; ${MOST} points is the most.`)
  return { points: fewest, problem: null }
}
