import { writeCase, type CaseOutcome, type CaseRubric } from '#core/exchange/case'
import { scaleAsRubric, schemeAsRubric } from '#core/exchange/case-kinds'
import { rubricSheet } from '#core/exchange/rubric-sheet'
import type { OutcomeBody, RubricBody, ScaleBody, SchemeBody } from '#contract'
import { dataPackage, type TableToPack } from '../data-package'
import { uuidOf } from '../uuid'
import type { libraryQueries, StandardRow } from './queries'

type Library = Pick<ReturnType<typeof libraryQueries>, 'get'>

/** An entry that is no outcome, as it stands in a CASE package. */
function asRubric({ kind, body, lineId: id, title }: StandardRow): CaseRubric {
  if (kind === 'scheme') return schemeAsRubric({ ...(JSON.parse(body) as SchemeBody), id, title })
  if (kind === 'scale') return scaleAsRubric({ ...(JSON.parse(body) as ScaleBody), id, title })
  return { ...(JSON.parse(body) as RubricBody), id, title }
}
export const outcomeOf = (o: StandardRow): CaseOutcome => ({ id: o.id, title: o.title, ...(JSON.parse(o.body) as OutcomeBody) })

/** An entry as a CASE 1.1 package, with the outcomes that it gives evidence of. */
export function entryAsCase(row: StandardRow, library: Library): object {
  const stamp = { uuid: uuidOf, at: row.editedAt ?? '' }
  if (row.kind === 'outcome') return writeCase([], { ...stamp, outcomes: [outcomeOf(row)] })
  const rubric = asRubric(row)
  const linked = [...new Set(rubric.criteria.flatMap((c) => c.outcomeIds ?? []))].flatMap((id) => library.get(id) ?? [])
  return writeCase([rubric], { ...stamp, outcomes: linked.map(outcomeOf) })
}

/** An entry as a table with a heading. */
export function tableOf({ kind, body }: StandardRow): string[][] {
  if (kind === 'rubric') return rubricSheet(JSON.parse(body) as RubricBody)
  if (kind === 'outcome') {
    const { statement, levels } = JSON.parse(body) as OutcomeBody
    return [['level', 'words'], ['', statement], ...levels.map((l) => [l.label, l.words])]
  }
  if (kind === 'scheme')
    return [['criterion', 'points', 'words'], ...(JSON.parse(body) as SchemeBody).criteria.map((c) => [c.title, String(c.max), c.words])]
  const { labels } = JSON.parse(body) as ScaleBody
  return [['label', 'percent', 'read back from'], ...labels.map((l) => [l.label, String(l.percent), String(l.threshold)])]
}

/** Where an entry stands in a data package, as CASE 1.1 JSON. */
export const ENTRY = 'standard.json'

/** An entry in a data package: as a table to read, and whole. */
export const entryParts = (row: StandardRow, library: Library): [TableToPack, { path: string; content: object }] => {
  const [header = [], ...rows] = tableOf(row)
  return [
    { name: 'standard', fields: header.map((name) => ({ name, type: 'string' })), rows },
    { path: ENTRY, content: entryAsCase(row, library) },
  ]
}

/** An entry as a data package of its own. */
export function entryPackage(row: StandardRow, library: Library): Uint8Array {
  const [table, document] = entryParts(row, library)
  return dataPackage(
    { name: `${row.kind}-${row.title}`, title: row.title, created: row.editedAt ?? '1970-01-01T00:00:00.000Z' },
    [table],
    [document],
  )
}
