import type { Criterion } from '../scales/rubric'
import { FileError } from './delimited'

/** A criterion with the outcomes that it gives evidence of, and the comments kept ready for its levels. */
export type CaseCriterion = Omit<Criterion, 'levels'> & {
  levels: (Criterion['levels'][number] & { comment?: string | undefined; threshold?: number | undefined })[]
  outcomeIds?: string[] | undefined
  /** Of a part of a mark scheme: what only markers see. */
  notes?: string | undefined
}

/** What CASE has no element for, so that it travels as a rubric that says in an extension what it is. */
export type CaseKind = 'mark scheme' | 'scale'

/** What of a rubric travels in CASE 1.1 JSON. */
export interface CaseRubric {
  id: string
  title: string
  /** What it is where it is no rubric. */
  kind?: CaseKind | undefined
  criteria: CaseCriterion[]
  bands?: { from: number; words: string }[] | undefined
  descending?: boolean | undefined
  alike?: boolean | undefined
}

/** A level of a file’s rubric, by the places of its criterion and its own, counted from 0. */
export interface LevelPlace {
  criterion: number
  level: number
}

/** A rubric of a file, with the identifier that it has there; null where it has none. */
export type FileRubric = Omit<CaseRubric, 'id'> & {
  source: string | null
  /** Levels that the file gives no score: how many points they are worth is to be asked. */
  unscored?: LevelPlace[] | undefined
}

/** An item that a criterion names and the file does not hold. */
export interface UnknownItem {
  id: string
  title: string
  criterion: string
}

export interface CaseOutcome {
  id: string
  title: string
  statement: string
  levels: { label: string; words: string }[]
  reached: number
  rule: object
  /** Groups that it stands in, the widest first. */
  group?: string[] | undefined
}

const MAX_RUBRICS = 200
/** Percents of a scale are often no plain decimals, thirds for one. */
const SCALE_PLACES = 6
const MAX_OUTCOMES = 500
const MOST_GROUPS = 6
const AT = '1970-01-01T00:00:00+00:00'

interface Stamp {
  /** A UUID for one of our ids, always the same; the schema takes versions 1 to 5. */
  uuid: (id: string) => string
  /** When it was last changed, as ISO 8601. */
  at: string
  outcomes?: readonly CaseOutcome[]
}

/** Under which names our entries have their identifiers. */
export const caseNames = {
  rubric: (id: string) => `rubric ${id}`,
  outcome: (id: string) => `outcome ${id}`,
  /** A group is what it and those around it are called. */
  group: (path: readonly string[]) => `group ${JSON.stringify(path)}`,
}

/**
 * Rubrics with their outcomes as a CASE 1.1 package: CFItem, CFRubric, CFRubricCriterion, CFRubricCriterionLevel. A level's name
 * is its quality, a comment kept ready its feedback, and what a penalty takes off a negative score; ranges, bands, order, an outcome's
 * levels and rule, and a criterion's further outcomes stand in extensions. Items hang under their document.
 */
export function writeCase(rubrics: readonly CaseRubric[], { uuid, at, outcomes = [] }: Stamp): object {
  const uri = (id: string) => `urn:uuid:${id}`
  const base = (name: string) => ({ identifier: uuid(name), uri: uri(uuid(name)), lastChangeDateTime: at || AT })
  const link = (title: string, name: string) => ({ title, identifier: uuid(name), uri: uri(uuid(name)) })
  const outcomeLink = (id: string) => link(outcomes.find((o) => o.id === id)?.title ?? id, caseNames.outcome(id))
  const linkOf = ({ outcomeIds: [first, ...rest] = [], notes }: CaseCriterion) => {
    const extensions = { ...(rest.length > 0 ? { furtherCFItemURIs: rest.map(outcomeLink) } : {}), ...(notes ? { notes } : {}) }
    return {
      ...(first === undefined ? {} : { CFItemURI: outcomeLink(first) }),
      ...(Object.keys(extensions).length > 0 ? { extensions } : {}),
    }
  }
  const documentName = `document ${(rubrics.length > 0 ? rubrics : outcomes).map((r) => r.id).join(' ')}`
  const title = rubrics.length === 1 ? rubrics[0]!.title : rubrics.length > 1 ? 'Rubrics' : 'Outcomes'
  const groups = groupsOf(outcomes)
  const groupLink = (path: readonly string[]) => (path.length === 0 ? documentLink : link(path.at(-1)!, caseNames.group(path)))
  const placed = [
    ...groups.map((path) => ({ name: path.join(' '), origin: groupLink(path), under: path.slice(0, -1) })),
    ...outcomes.map((o) => ({ name: o.id, origin: outcomeLink(o.id), under: o.group ?? [] })),
  ]
  const documentLink = link(title, documentName)
  return {
    CFDocument: {
      ...base(documentName),
      creator: 'Level Table',
      title,
      caseVersion: '1.1',
      // A package is known by its document's identifier.
      CFPackageURI: documentLink,
    },
    CFItems: [
      ...groups.map((path) => ({
        ...base(caseNames.group(path)),
        CFDocumentURI: documentLink,
        fullStatement: path.at(-1)!,
        CFItemType: GROUP,
      })),
      ...outcomes.map((o) => ({
        ...base(caseNames.outcome(o.id)),
        CFDocumentURI: documentLink,
        fullStatement: o.statement || o.title,
        abbreviatedStatement: o.title,
        CFItemType: 'Outcome',
        extensions: { levels: o.levels, reached: o.reached, rule: o.rule },
      })),
    ],
    CFAssociations: placed.map(({ name, origin, under }, i) => ({
      ...base(`child ${documentName} ${name}`),
      CFDocumentURI: documentLink,
      associationType: 'isChildOf',
      sequenceNumber: i + 1,
      originNodeURI: origin,
      destinationNodeURI: groupLink(under),
    })),
    CFRubrics: rubrics.map((r) => ({
      ...base(caseNames.rubric(r.id)),
      title: r.title,
      ...(r.kind ? { extensions: { kind: r.kind } } : {}),
      ...(r.bands || r.descending || r.alike ? { extensions: { bands: r.bands ?? [], bestFirst: !!r.descending, alike: !!r.alike } } : {}),
      CFRubricCriteria: r.criteria.map((c, position) => ({
        ...base(`criterion ${r.id} ${c.id}`),
        category: c.title,
        description: c.description || c.title,
        position: position + 1,
        weight: 1,
        rubricId: uuid(caseNames.rubric(r.id)),
        ...linkOf(c),
        CFRubricCriterionLevels: c.levels.map((l, i) => ({
          ...base(`level ${r.id} ${c.id} ${i}`),
          description: l.words,
          ...(l.comment ? { feedback: l.comment } : {}),
          ...(l.name ? { quality: l.name } : {}),
          score: c.penalty ? 0 - l.points : l.points,
          position: i + 1,
          rubricCriterionId: uuid(`criterion ${r.id} ${c.id}`),
          ...(c.ranges ? { extensions: { scoreTo: l.to ?? l.points } } : {}),
          ...(l.threshold === undefined ? {} : { extensions: { threshold: l.threshold } }),
        })),
      })),
    })),
  }
}

const GROUP = 'Outcome group'

/** Every group that outcomes stand in, those around others first. */
function groupsOf(outcomes: readonly CaseOutcome[]): string[][] {
  const all = outcomes.flatMap(({ group = [] }) => group.map((_, i) => group.slice(0, i + 1)))
  return [...new Map(all.map((path) => [JSON.stringify(path), path])).values()].sort((a, b) => a.length - b.length)
}

type Json = Record<string, unknown>
const list = (x: unknown): Json[] => (Array.isArray(x) ? x.filter((y): y is Json => typeof y === 'object' && y !== null) : [])
const text = (x: unknown) => (typeof x === 'string' ? x : '')
/** What stands beside the standard’s own fields. */
const ownOf = (x: Json): Json => (x.extensions ?? {}) as Json
const byPosition = (a: Json, b: Json) => Number(a.position ?? 0) - Number(b.position ?? 0)

interface ReadCase {
  rubrics: FileRubric[]
  /** Those that criteria name, or all items where there is no rubric; by the identifiers of the file. */
  outcomes: CaseOutcome[]
  unknown: UnknownItem[]
  /** What of the file is not read, in words. */
  notes: string[]
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
  const unknown: UnknownItem[] = []
  const linksOf = (c: Json): string[] => {
    const links = [c.CFItemURI, ...list(ownOf(c).furtherCFItemURIs)] as (Json | undefined)[]
    return links.flatMap((link) => {
      const id = text(link?.identifier).slice(0, 200)
      if (id === '') return []
      if (!items.has(id))
        unknown.push({ id, title: text(link!.title).slice(0, 200), criterion: (text(c.category) || text(c.description)).slice(0, 200) })
      return [id]
    })
  }
  const read = rubrics.slice(0, MAX_RUBRICS).map((r): FileRubric => {
    const more = (r.extensions ?? {}) as Json
    const bands = list(more.bands)
      .slice(0, 20)
      .map((b) => ({ from: Math.min(100, Math.max(0, Number(b.from) || 0)), words: text(b.words).slice(0, 2000) }))
    return {
      source: text(r.identifier).slice(0, 200) || null,
      title: text(r.title).slice(0, 200) || 'Rubric',
      ...(bands.length > 0 ? { bands } : {}),
      ...(more.bestFirst === true ? { descending: true } : {}),
      ...(more.alike === true ? { alike: true } : {}),
      ...(more.kind === 'mark scheme' || more.kind === 'scale' ? { kind: more.kind } : {}),
      ...criteriaIn(r, (c) => {
        const outcomeIds = linksOf(c)
        for (const id of outcomeIds) named.add(id)
        return outcomeIds
      }),
    }
  })
  const parents = parentsIn(root, items)
  const around = new Set(parents.values())
  // What others stand in is a group, unless a criterion names it.
  const isOutcome = (id: string) => named.has(id) || (rubrics.length === 0 && !around.has(id) && text(items.get(id)!.CFItemType) !== GROUP)
  const wanted = [...items].filter(([id]) => isOutcome(id)).slice(0, MAX_OUTCOMES)
  return {
    rubrics: read,
    outcomes: wanted.map(([id, item]) => ({ ...outcomeOf(id, item), ...groupOf(id, parents, items) })),
    unknown,
    notes: rubrics.length > MAX_RUBRICS ? [`The file has ${rubrics.length} rubrics: the first ${MAX_RUBRICS} are read.`] : [],
  }
}

/** The criteria of a rubric, and which of their levels have no score. */
function criteriaIn(rubric: Json, linksOf: (criterion: Json) => string[]): Pick<FileRubric, 'criteria' | 'unscored'> {
  const unscored: LevelPlace[] = []
  const criteria = list(rubric.CFRubricCriteria)
    .sort(byPosition)
    .map((c, criterion) => {
      const read = criterionOf(c, criterion, linksOf(c))
      unscored.push(...read.unscored.map((level) => ({ criterion, level })))
      return read.criterion
    })
  return { criteria, ...(unscored.length > 0 ? { unscored } : {}) }
}

const hasScore = (level: Json): boolean => level.score !== null && level.score !== '' && Number.isFinite(Number(level.score ?? NaN))

/** A criterion whose scores, weighed, are points; where they are below 0 it takes them off. Where a score is missing levels stay in their places. */
function criterionOf(c: Json, i: number, outcomeIds: string[]): { criterion: CaseCriterion; unscored: number[] } {
  const given = Number(c.weight ?? 1)
  const weight = Number.isFinite(given) && given !== 0 ? given : 1
  const levels = list(c.CFRubricCriterionLevels).sort(byPosition)
  const scoreTo = (l: Json) => ownOf(l).scoreTo
  const weighed = levels.map((l) => (Number(l.score) || 0) * weight)
  const [category, description] = [text(c.category), text(c.description)]
  const further = category !== '' && description !== category ? description.slice(0, 2000) : ''
  const points = (x: number, places = 3) => Math.min(10_000, Number(Math.abs(x).toFixed(places)))
  const unscored = levels.flatMap((l, at) => (hasScore(l) ? [] : [at]))
  const criterion: CaseCriterion = {
    id: `c${i + 1}`,
    title: (category || description).slice(0, 200) || `Criterion ${i + 1}`,
    ...(further === '' ? {} : { description: further }),
    ranges: levels.some((l) => typeof scoreTo(l) === 'number'),
    penalty: weighed.some((score) => score < 0),
    ...(outcomeIds.length > 0 ? { outcomeIds } : {}),
    ...(text(ownOf(c).notes) === '' ? {} : { notes: text(ownOf(c).notes).slice(0, 2000) }),
    levels: levels
      .map((l, at) => {
        const to = scoreTo(l)
        const isLabel = typeof ownOf(l).threshold === 'number'
        const end = typeof to === 'number' ? points(to * weight) : null
        const words = text(l.description).slice(0, 2000)
        // What is told as the level's quality is its name, unless it is how its words begin.
        const name = text(l.quality).slice(0, 120)
        return {
          points: points(weighed[at]!, isLabel ? SCALE_PLACES : undefined),
          ...(end !== null && end > points(weighed[at]!) ? { to: end } : {}),
          ...(name !== '' && (words === '' || !words.startsWith(name)) ? { name } : {}),
          words,
          ...(isLabel ? { threshold: points(ownOf(l).threshold as number, SCALE_PLACES) } : {}),
          ...(text(l.feedback) ? { comment: text(l.feedback).slice(0, 2000) } : {}),
        }
      })
      .sort((a, b) => (unscored.length > 0 ? 0 : a.points - b.points)),
  }
  return { criterion, unscored }
}

/** Which item each item of a file stands in. */
function parentsIn(root: Json, items: ReadonlyMap<string, Json>): Map<string, string> {
  const idOf = (x: unknown) => text((x as Json | undefined)?.identifier)
  return new Map(
    list(root.CFAssociations).flatMap((a) => {
      const [origin, under] = [idOf(a.originNodeURI), idOf(a.destinationNodeURI)]
      return a.associationType === 'isChildOf' && items.has(origin) && items.has(under) ? [[origin, under] as const] : []
    }),
  )
}

/** The groups that an item stands in; those beyond the sixth, and a ring of them, are left off. */
function groupOf(id: string, parents: ReadonlyMap<string, string>, items: ReadonlyMap<string, Json>): { group?: string[] } {
  const path: string[] = []
  const seen = new Set([id])
  for (let at = parents.get(id); at !== undefined && !seen.has(at); at = parents.get(at)) {
    seen.add(at)
    const item = items.get(at)!
    path.unshift((text(item.abbreviatedStatement) || text(item.fullStatement) || 'Group').trim().slice(0, 120) || 'Group')
  }
  return path.length > 0 ? { group: path.slice(0, MOST_GROUPS) } : {}
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
