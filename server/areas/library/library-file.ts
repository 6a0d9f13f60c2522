import { caseNames, type CaseOutcome, type FileRubric } from '#core/exchange/case'
import { OutcomeRule, type LibraryFile, type RubricBody } from '#contract'
import { uuidOf } from '../../kernel/uuid'
import type { libraryQueries } from '../../kernel/standards/queries'

/** What a worker found in a file that was brought to the library. */
export interface LibraryFileRead {
  tables: string[][][]
  rubrics: FileRubric[]
  outcomes: CaseOutcome[]
  notes: string[]
}

/** What of a file is in the library already: taken out of it once, or brought in from the same file. */
export function recognised(read: LibraryFileRead, library: ReturnType<typeof libraryQueries>): LibraryFile {
  const byIdentifier = new Map(
    library.sources().flatMap(({ id, kind, source }) => {
      const ours = kind === 'rubric' || kind === 'outcome' ? [[uuidOf(caseNames[kind](id)), id] as const] : []
      return source === null ? ours : [...ours, [source, id] as const]
    }),
  )
  const known = (identifier: string | null) => {
    const id = identifier === null ? undefined : byIdentifier.get(identifier)
    return id === undefined ? null : library.get(library.newestOf(id))
  }
  return {
    tables: read.tables,
    notes: read.notes,
    rubrics: read.rubrics.map((r) => {
      const here = known(r.source)
      return { ...r, known: here && { id: here.id, title: here.title, same: content(JSON.parse(here.body) as RubricBody) === content(r) } }
    }),
    // A rule that is not one of ours stands in an extension of somebody else’s.
    outcomes: read.outcomes.map((o) => ({
      ...o,
      rule: OutcomeRule.safeParse(o.rule).data ?? { kind: 'latest' as const },
      known: known(o.id)?.id ?? null,
    })),
  }
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
