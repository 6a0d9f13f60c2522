import type { FileTable, FindHeading } from './delimited'
import { WHO_BY, type MarksMatch, type MarksTable } from './marks-who'
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

/** Which row is the heading: the one that was said, else the first that says whose its rows are, else the first of all. */
export const marksHeading =
  ({ headingLine }: MarksMatch): FindHeading =>
  (rows: FileTable['rows']) =>
    Math.max(
      0,
      rows.findIndex(({ line, cells }) => (headingLine === undefined ? whoIn(cells) !== null : line >= headingLine)),
    )
