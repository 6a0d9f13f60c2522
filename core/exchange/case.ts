import type { Criterion } from '../scales/rubric'
import { FileError } from './delimited'

/** What of a rubric travels in CASE 1.1 JSON. */
export interface CaseRubric {
  id: string
  title: string
  criteria: Criterion[]
}

const MAX_RUBRICS = 200
const AT = '1970-01-01T00:00:00+00:00'

interface Stamp {
  /** A UUID for one of our ids, always the same. */
  uuid: (id: string) => string
  /** When it was last changed, as ISO 8601. */
  at: string
}

/** Rubrics as a CASE 1.1 package: CFRubric, CFRubricCriterion, CFRubricCriterionLevel; ranges stand in extensions, a penalty has weight −1. */
export function writeCase(rubrics: readonly CaseRubric[], { uuid, at }: Stamp): object {
  const uri = (kind: string, id: string) => `urn:uuid:${uuid(`${kind} ${id}`)}`
  const base = (kind: string, id: string) => ({ identifier: uuid(`${kind} ${id}`), uri: uri(kind, id), lastChangeDateTime: at || AT })
  return {
    CFDocument: {
      ...base('document', rubrics.map((r) => r.id).join(' ')),
      creator: 'Level Table',
      title: rubrics.length === 1 ? rubrics[0]!.title : 'Rubrics',
      caseVersion: '1.1',
      CFPackageURI: { title: 'Rubrics', identifier: uuid('package'), uri: uri('package', '') },
    },
    CFItems: [],
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
        CFRubricCriterionLevels: c.levels.map((l, i) => ({
          ...base('level', `${r.id} ${c.id} ${i}`),
          description: l.words,
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

/**
 * Reads the rubrics of a CASE 1.1 package, or of a single CFRubric.
 * @throws FileError where it is no JSON or holds no rubric
 */
export function readCase(json: string): Omit<CaseRubric, 'id'>[] {
  let root: Json
  try {
    root = JSON.parse(json) as Json
  } catch {
    throw new FileError('This is not JSON. Export the package as CASE 1.1 JSON and bring that in.')
  }
  if (typeof root !== 'object' || root === null) throw new FileError('This JSON holds no rubric (CFRubrics).')
  const rubrics = 'CFRubricCriteria' in root ? [root] : list(root.CFRubrics)
  if (rubrics.length === 0) throw new FileError('This JSON holds no rubric (CFRubrics).')
  return rubrics.slice(0, MAX_RUBRICS).map((r) => ({
    title: text(r.title).slice(0, 200) || 'Rubric',
    criteria: list(r.CFRubricCriteria)
      .sort(byPosition)
      .map((c, i): Criterion => {
        const levels = list(c.CFRubricCriterionLevels).sort(byPosition)
        const ranges = levels.some((l) => typeof (l.extensions as Json | undefined)?.scoreTo === 'number')
        return {
          id: `c${i + 1}`,
          title: (text(c.category) || text(c.description)).slice(0, 200) || `Criterion ${i + 1}`,
          ranges,
          penalty: Number(c.weight) < 0,
          levels: levels
            .map((l) => {
              const points = Math.max(0, Number(l.score) || 0)
              const to = (l.extensions as Json | undefined)?.scoreTo
              return {
                points,
                ...(typeof to === 'number' && to > points ? { to } : {}),
                words: (text(l.description) || text(l.quality)).slice(0, 2000),
              }
            })
            .sort((a, b) => a.points - b.points),
        }
      }),
  }))
}
