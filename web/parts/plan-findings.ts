import { placementFindings, type PlacementFinding } from '#core/roll'
import type { Plan } from '#contract'
import type { Part } from './set-out-parts'
import { numeral, shownDay } from './format'

/** The placements of a plan by the ids of assessment and section. */
export const placementsOf = ({ placements, assessments, sections, releases }: Plan) =>
  placements.map(([a, s, due, r]) => {
    const release = releases[r]
    return {
      assessmentId: assessments[a]!.id,
      sectionId: sections[s]!.id,
      due,
      letOut: release?.kind === 'on' ? release.day : null,
    }
  })

interface DateFindings {
  open: PlacementFinding[]
  accepted: PlacementFinding[]
}
const reckoned = new WeakMap<Plan, DateFindings>()

/** What is odd about the dates, and which of it somebody let stand; reckoned once for a plan. */
export function dateFindings(plan: Plan): DateFindings {
  const before = reckoned.get(plan)
  if (before) return before
  const { head: term, sections, assessments } = plan
  const all = placementFindings({ term, sections, assessments, placements: placementsOf(plan), said: (day) => shownDay(day) })
  const quiet = new Set(plan.accepted.map((a) => a.key))
  const found = { open: all.filter((f) => !quiet.has(f.key)), accepted: all.filter((f) => quiet.has(f.key)) }
  reckoned.set(plan, found)
  return found
}

/** Findings of one kind about one assessment, which are looked at, mended and let stand together. */
export interface FindingGroup {
  key: string
  kind: PlacementFinding['kind']
  findings: PlacementFinding[]
  message: string
}

const GRAVEST: PlacementFinding['kind'][] = [
  'no placement',
  'outside the term',
  'before the first day',
  'let out early',
  'weekend',
  'no meeting',
  'not set',
  'no date',
  'several due',
]

const WORDS: Record<PlacementFinding['kind'], string> = {
  'no placement': 'is set for no section',
  'outside the term': 'is due outside the term in',
  'before the first day': 'is due before it starts in',
  'let out early': 'has its marks let out before it is due, or before the course begins, in',
  weekend: 'is due on a weekend in',
  'no meeting': 'is due on a day without a meeting in',
  'not set': 'is not set for',
  'no date': 'has no date in',
  'several due': 'are due on one day in',
}
const NAMED = 4

/** The gravest first. */
export function grouped(findings: PlacementFinding[], { assessments, sections }: Pick<Plan, 'assessments' | 'sections'>): FindingGroup[] {
  const groups = new Map<string, PlacementFinding[]>()
  for (const f of findings) {
    const key = `${f.kind}|${f.assessmentId}`
    const list = groups.get(key)
    if (list) list.push(f)
    else groups.set(key, [f])
  }
  const nameOf = new Map(sections.map((s) => [s.id, s.name]))
  const titleOf = new Map(assessments.map((a) => [a.id, a.title]))
  return [...groups]
    .map(([key, list]): FindingGroup => {
      const { kind, assessmentId, message } = list[0]!
      // Which ones fall together stands at the head of the finding's own sentence.
      const what = kind === 'several due' ? message.split(' are due ')[0] : titleOf.get(assessmentId)
      const names = list.map((f) => nameOf.get(f.sectionId ?? '') ?? '')
      const where = names.slice(0, NAMED).join(', ') + (names.length > NAMED ? ` and ${names.length - NAMED} more` : '')
      return { key, kind, findings: list, message: list.length === 1 ? message : `${what} ${WORDS[kind]} ${where}.` }
    })
    .sort((a, b) => GRAVEST.indexOf(a.kind) - GRAVEST.indexOf(b.kind))
}

/** What is odd about components and assessments, in sentences by their ids. */
export function sumFindings({ components, assessments }: Pick<Plan, 'components' | 'assessments'>): Map<string, string> {
  const found = new Map<string, string>()
  for (const c of components) {
    const own = assessments.filter((a) => a.componentId === c.id && a.counts && !a.bonus)
    const droppable = own.filter((a) => a.droppable).length
    if (c.dropLowest > 0 && own.length > 0 && c.dropLowest >= own.length)
      found.set(c.id, `It drops ${c.dropLowest} of ${own.length}, which would leave nothing: at most ${own.length - 1} are dropped.`)
    else if (c.dropLowest > droppable && own.length > 0)
      found.set(c.id, `It drops ${c.dropLowest}, and ${droppable === 0 ? 'none' : `only ${droppable}`} of its assessments may be dropped.`)
  }
  for (const a of assessments)
    if (a.marking === 'completion' && a.outOf !== 1)
      found.set(a.id, `Done or not, out of ${numeral(a.outOf)}: done gives all ${numeral(a.outOf)}, and nothing between can be given.`)
  return found
}

/** What a person should look at in each part. */
export function openFindings(plan: Plan): Partial<Record<Part, number>> {
  return {
    plan:
      plan.components.filter((c) => c.weight === null).length +
      plan.assessments.filter((a) => a.counts && a.worth === null).length +
      plan.assessments.filter((a) => a.passMark !== null && a.passMark > a.outOf).length +
      sumFindings(plan).size,
    placements: grouped(dateFindings(plan).open, plan).length,
  }
}
