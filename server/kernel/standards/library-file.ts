import { isDeepStrictEqual } from 'node:util'
import { caseNames, type CaseOutcome, type FileRubric, type UnknownItem } from '#core/exchange/case'
import type { FileStandard } from '#core/exchange/case-kinds'
import { OutcomeRule, Standard, type LibraryFile, type OutcomeBody, type RubricBody, type SchemeBody } from '#contract'
import { uuidOf } from '../uuid'
import type { libraryQueries } from './queries'

/** What a worker found in a file that was brought to the library. */
export interface LibraryFileRead {
  tables: string[][][]
  rubrics: FileRubric[]
  others: FileStandard[]
  outcomes: CaseOutcome[]
  /** Items that criteria name and the file does not hold. */
  unknown: UnknownItem[]
  notes: string[]
}

/** What of a file is in the library already: taken out of it once, or brought in from the same file. */
export function recognised(read: LibraryFileRead, library: ReturnType<typeof libraryQueries>): LibraryFile {
  const byIdentifier = new Map(
    library.sources().flatMap(({ id, kind, source }) => {
      const ours = [[uuidOf(caseNames[kind === 'outcome' ? 'outcome' : 'rubric'](id)), id] as const]
      return source === null ? ours : [...ours, [source, id] as const]
    }),
  )
  const known = (identifier: string | null) => {
    const id = identifier === null ? undefined : byIdentifier.get(identifier)
    return id === undefined ? null : library.get(library.newestOf(id))
  }
  const notes = [...read.notes]
  // What the library has by the identifier of an item that the file only names.
  const elsewhere = read.unknown.flatMap((item) => {
    const here = known(item.id)
    if (here?.kind === 'outcome') return [{ ...(JSON.parse(here.body) as OutcomeBody), id: item.id, title: here.title, known: here.id }]
    notes.push(
      `“${item.criterion}” refers to ${item.title ? `“${item.title}”` : `an item (${item.id})`}, which neither the file nor the library has: it will not be linked.`,
    )
    return []
  })
  return {
    tables: read.tables,
    others: read.others.flatMap(({ source, ...given }) => {
      // Of another program, or changed by hand, it may say what no scale or mark scheme of ours can.
      const { data: standard, error } = Standard.safeParse(given)
      const here = known(source)
      if (standard?.kind === 'scheme' || standard?.kind === 'scale')
        return [{ standard, source, known: here && { id: here.id, title: here.title, same: sameBody(here.body, standard.body) } }]
      notes.push(
        `“${given.title}” is left out: as a ${given.kind === 'scale' ? 'scale' : 'mark scheme'} it has a fault. ${error?.issues[0]?.message ?? ''}`,
      )
      return []
    }),
    rubrics: read.rubrics.map((r) => {
      const here = known(r.source)
      return { ...r, known: here && { id: here.id, title: here.title, same: content(JSON.parse(here.body) as RubricBody) === content(r) } }
    }),
    // A rule that is not one of ours stands in an extension of somebody else’s.
    outcomes: [
      ...read.outcomes.map((o) => ({
        ...o,
        rule: OutcomeRule.safeParse(o.rule).data ?? { kind: 'latest' as const },
        known: known(o.id)?.id ?? null,
      })),
      ...new Map(elsewhere.map((o) => [o.id, o])).values(),
    ],
    notes,
  }
}

/** Whether a mark scheme or a scale says the same, whatever its parts are called inside. */
const sameBody = (here: string, body: object): boolean => {
  const said = (of: object) => ('criteria' in of ? (of as SchemeBody).criteria.map(({ id: _, ...c }) => c) : of)
  return isDeepStrictEqual(said(JSON.parse(here) as object), said(body))
}

/** What a rubric says, whatever its parts are called inside. */
const content = ({ criteria, bands, descending, alike }: Pick<RubricBody, 'criteria' | 'bands' | 'descending' | 'alike'>): string =>
  JSON.stringify([
    criteria.map((c) => [
      c.title,
      c.description ?? '',
      c.ranges,
      c.penalty,
      c.levels.map((l) => [l.points, c.ranges ? (l.to ?? l.points) : null, l.name ?? '', l.words, l.comment ?? '']),
    ]),
    (bands ?? []).map((b) => [b.from, b.words]),
    !!descending,
    !!alike,
  ])
