import type { Criterion } from '../scales/rubric'
import { FileError } from './delimited'

/** A criterion with the outcomes that it gives evidence of, and the comments kept ready for its levels. */
export type CaseCriterion = Omit<Criterion, 'levels'> & {
  levels: (Criterion['levels'][number] & { comment?: string | undefined })[]
  outcomeIds?: string[] | undefined
}

/** What of a rubric travels in CASE 1.1 JSON. */
export interface CaseRubric {
  id: string
  title: string
  criteria: CaseCriterion[]
}

export interface CaseOutcome {
  id: string
  title: string
  statement: string
  levels: { label: string; words: string }[]
  reached: number
  rule: object
}

const MAX_RUBRICS = 200
const MAX_OUTCOMES = 500
const AT = '1970-01-01T00:00:00+00:00'

interface Stamp {
  /** A UUID for one of our ids, always the same. */
  uuid: (id: string) => string
  /** When it was last changed, as ISO 8601. */
  at: string
  outcomes?: readonly CaseOutcome[]
}

/**
 * Rubrics with their outcomes as a CASE 1.1 package: CFItem, CFRubric, CFRubricCriterion, CFRubricCriterionLevel. A comment
 * kept ready is a level's feedback, a penalty has weight −1; ranges, an outcome's levels and rule, and a criterion's further
 * outcomes stand in extensions.
 */
export function writeCase(rubrics: readonly CaseRubric[], { uuid, at, outcomes = [] }: Stamp): object {
  const uri = (kind: string, id: string) => `urn:uuid:${uuid(`${kind} ${id}`)}`
  const base = (kind: string, id: string) => ({ identifier: uuid(`${kind} ${id}`), uri: uri(kind, id), lastChangeDateTime: at || AT })
  const link = (id: string) => ({
    title: outcomes.find((o) => o.id === id)?.title ?? id,
    identifier: uuid(`outcome ${id}`),
    uri: uri('outcome', id),
  })
  const linkOf = ([first, ...rest]: string[]) =>
    first === undefined ? {} : { CFItemURI: link(first), ...(rest.length > 0 ? { extensions: { furtherCFItemURIs: rest.map(link) } } : {}) }
  return {
    CFDocument: {
      ...base('document', rubrics.map((r) => r.id).join(' ')),
      creator: 'Level Table',
      title: rubrics.length === 1 ? rubrics[0]!.title : 'Rubrics',
      caseVersion: '1.1',
      CFPackageURI: { title: 'Rubrics', identifier: uuid('package'), uri: uri('package', '') },
    },
    CFItems: outcomes.map((o) => ({
      ...base('outcome', o.id),
      fullStatement: o.statement || o.title,
      abbreviatedStatement: o.title,
      CFItemType: 'Outcome',
      extensions: { levels: o.levels, reached: o.reached, rule: o.rule },
    })),
    CFAssociations: [],
    CFRubrics: rubrics.map((r) => ({
      ...base('rubric', r.id),
      title: r.title,
      CFRubricCriteria: r.criteria.map((c, position) => ({
        ...base('criterion', `${r.id} ${c.id}`),
        category: c.title,
        description: c.title,
        position: position + 1,
        weight: c.penalty ? -1 : 1,
        rubricId: uuid(`rubric ${r.id}`),
        ...linkOf(c.outcomeIds ?? []),
        CFRubricCriterionLevels: c.levels.map((l, i) => ({
          ...base('level', `${r.id} ${c.id} ${i}`),
          description: l.words,
          ...(l.comment ? { feedback: l.comment } : {}),
          quality: l.words.split('\n')[0]!.slice(0, 80),
          score: l.points,
          position: i + 1,
          rubricCriterionId: uuid(`criterion ${r.id} ${c.id}`),
          ...(c.ranges ? { extensions: { scoreTo: l.to ?? l.points } } : {}),
        })),
      })),
    })),
  }
}

type Json = Record<string, unknown>
const list = (x: unknown): Json[] => (Array.isArray(x) ? x.filter((y): y is Json => typeof y === 'object' && y !== null) : [])
const text = (x: unknown) => (typeof x === 'string' ? x : '')
const byPosition = (a: Json, b: Json) => Number(a.position ?? 0) - Number(b.position ?? 0)

interface ReadCase {
  rubrics: Omit<CaseRubric, 'id'>[]
  /** Those that criteria name, or all items where there is no rubric; by the identifiers of the file. */
  outcomes: CaseOutcome[]
}

/**
 * Reads the rubrics and outcomes of a CASE 1.1 package, or a single CFRubric.
 * @throws FileError where it is no JSON or holds neither
 */
export function readCase(json: string): ReadCase {
  let root: Json
  try {
    root = JSON.parse(json) as Json
  } catch {
    throw new FileError('This is not JSON. Export the package as CASE 1.1 JSON and bring that in.')
  }
  const nothing = 'This JSON holds no rubric (CFRubrics) and no outcome (CFItems).'
  if (typeof root !== 'object' || root === null) throw new FileError(nothing)
  const rubrics = 'CFRubricCriteria' in root ? [root] : list(root.CFRubrics)
  const items = new Map(list(root.CFItems).map((item) => [text(item.identifier), item]))
  if (rubrics.length === 0 && items.size === 0) throw new FileError(nothing)
  const named = new Set<string>()
  const linksOf = (c: Json): string[] => {
    const links = [c.CFItemURI, ...list((c.extensions as Json | undefined)?.furtherCFItemURIs)] as (Json | undefined)[]
    return links.map((l) => text(l?.identifier)).filter((id) => items.has(id))
  }
  const read = rubrics.slice(0, MAX_RUBRICS).map((r) => ({
    title: text(r.title).slice(0, 200) || 'Rubric',
    criteria: list(r.CFRubricCriteria)
      .sort(byPosition)
      .map((c, i): CaseCriterion => {
        const levels = list(c.CFRubricCriterionLevels).sort(byPosition)
        const ranges = levels.some((l) => typeof (l.extensions as Json | undefined)?.scoreTo === 'number')
        const outcomeIds = linksOf(c)
        for (const id of outcomeIds) named.add(id)
        return {
          id: `c${i + 1}`,
          title: (text(c.category) || text(c.description)).slice(0, 200) || `Criterion ${i + 1}`,
          ranges,
          penalty: Number(c.weight) < 0,
          ...(outcomeIds.length > 0 ? { outcomeIds } : {}),
          levels: levels
            .map((l) => {
              const points = Math.max(0, Number(l.score) || 0)
              const to = (l.extensions as Json | undefined)?.scoreTo
              return {
                points,
                ...(typeof to === 'number' && to > points ? { to } : {}),
                words: (text(l.description) || text(l.quality)).slice(0, 2000),
                ...(text(l.feedback) ? { comment: text(l.feedback).slice(0, 2000) } : {}),
              }
            })
            .sort((a, b) => a.points - b.points),
        }
      }),
  }))
  const wanted = [...items].filter(([id]) => rubrics.length === 0 || named.has(id)).slice(0, MAX_OUTCOMES)
  return { rubrics: read, outcomes: wanted.map(([id, item]) => outcomeOf(id, item)) }
}

const USUAL_LEVELS = ['not yet', 'partly', 'reached', 'beyond'].map((label) => ({ label, words: '' }))

function outcomeOf(id: string, item: Json): CaseOutcome {
  const statement = text(item.fullStatement).slice(0, 2000)
  const more = (item.extensions ?? {}) as Json
  const given = list(more.levels).slice(0, 20)
  const levels = given.map((l) => ({ label: text(l.label).slice(0, 120), words: text(l.words).slice(0, 2000) }))
  const reached = Number(more.reached)
  const known = Number.isInteger(reached) && reached >= 1 && reached <= levels.length
  return {
    id,
    title: (text(item.abbreviatedStatement) || text(item.humanCodingScheme) || statement || 'Outcome').slice(0, 200),
    statement,
    levels: levels.length > 0 ? levels : USUAL_LEVELS,
    reached: known ? reached : Math.max(1, (levels.length || USUAL_LEVELS.length) - 1),
    rule: typeof more.rule === 'object' && more.rule !== null ? more.rule : { kind: 'latest' },
  }
}
