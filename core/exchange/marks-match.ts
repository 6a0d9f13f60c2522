import type { FileTable, FindHeading } from './delimited'
import { columnsNow } from './heading-match'
import { WHO_BY, type KnownMarks, type MarksRead, type MarksTable } from './marks-who'
import { recogniseColumns } from './roll-file'

const FIELD = { candidate: 'candidate', 'external id': 'external id', 'e-mail': 'sign-in', name: 'name' } as const

/** The column that says whose a row is, by the words people use for it: the number before an id from outside, a mail address or the name. */
export function whoIn(header: readonly string[]): MarksTable['who'] {
  const columns = recogniseColumns(header)
  for (const by of WHO_BY) {
    const column = columns[FIELD[by]]
    if (column !== undefined) return { column, by }
  }
  return null
}

/** How a table with these columns was matched before, by their places in it. */
export function matchedBefore(header: readonly string[], { known = [] }: MarksRead): Omit<KnownMarks, 'header'> | undefined {
  for (const { header: then, who, marks } of known) {
    const now = columnsNow(then, [who.column, ...marks.map((m) => m.column)], header)
    if (now)
      return {
        who: { ...who, column: now(who.column) },
        marks: marks.map(({ column, assessment }) => ({ column: now(column), assessment })),
      }
  }
  return undefined
}

/** Which row is the heading: the one that was said, else the first that was matched before or says whose its rows are, else the first of all. */
export const marksHeading =
  (match: MarksRead): FindHeading =>
  (rows: FileTable['rows']) =>
    Math.max(
      0,
      rows.findIndex(({ line, cells }) =>
        match.headingLine === undefined ? whoIn(cells) !== null || matchedBefore(cells, match) !== undefined : line >= match.headingLine,
      ),
    )
