import type { FileTable, FindHeading } from './delimited'
import { WHO_BY, type KnownMarks, type MarksRead, type MarksTable } from './marks-who'
import { recogniseColumns } from './roll-file'
import { sameHeading } from './same-heading'

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

/** How a table with this heading was matched before. */
export const matchedBefore = (header: readonly string[], { known = [] }: MarksRead): KnownMarks | undefined =>
  known.find((k) => sameHeading(k.header, header))

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
