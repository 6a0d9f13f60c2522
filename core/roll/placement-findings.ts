import { shownDay, weekdayOf, type Day, type Term } from './days'
import { firstMeeting, meetsOn, type Meets } from './meetings'

export interface PlacedSection extends Meets {
  id: string
  name: string
}

export interface PlacedAssessment {
  id: string
  title: string
  counts: boolean
}

export interface PlacedOn {
  assessmentId: string
  sectionId: string
  due: Day | null
  /** The day on which its marks are let out, where it is one and the same whenever it is due. */
  letOut?: Day | null
}

export type PlacementFindingKind =
  | 'let out early'
  | 'weekend'
  | 'outside the term'
  | 'no meeting'
  | 'before the first day'
  | 'several due'
  | 'no date'
  | 'not set'
  | 'no placement'

export interface PlacementFinding {
  /** Names the finding with its date, so that it is a new one once the date has changed. */
  key: string
  kind: PlacementFindingKind
  assessmentId: string
  /** Null where it is about all sections. */
  sectionId: string | null
  due: Day | null
  /** What is wrong, as a sentence. */
  message: string
  /** A day that would mend it; null where none is known. */
  mend: Day | null
}

const WEEKDAYS = ['', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']

/**
 * What is odd about the dates of a course: each placement's day against its section's weekdays and first day and
 * the term; several due on one day for a section; an assessment that some section or all lack. A placement has
 * one finding about its day, the gravest. In the order of assessments, then sections.
 */
export function placementFindings(input: {
  term: Term
  sections: readonly PlacedSection[]
  assessments: readonly PlacedAssessment[]
  placements: readonly PlacedOn[]
  /** How a day is said in a sentence. */
  said?: (day: Day) => string
}): PlacementFinding[] {
  const { term, sections, assessments, said = shownDay } = input
  const findings: PlacementFinding[] = []
  const of = new Map<string, Map<string, PlacedOn>>()
  const onOneDay = new Map<string, Map<Day, string[]>>()
  for (const p of input.placements) {
    let own = of.get(p.assessmentId)
    if (!own) of.set(p.assessmentId, (own = new Map()))
    own.set(p.sectionId, p)
    if (p.due === null) continue
    let days = onOneDay.get(p.sectionId)
    if (!days) onOneDay.set(p.sectionId, (days = new Map()))
    const together = days.get(p.due)
    if (together) together.push(p.assessmentId)
    else days.set(p.due, [p.assessmentId])
  }
  const titleOf = new Map(assessments.map((a) => [a.id, a.title]))
  for (const a of assessments) {
    const placed = of.get(a.id)
    const add = (kind: PlacementFindingKind, section: PlacedSection | null, due: Day | null, message: string, mend: Day | null) =>
      findings.push({
        key: [kind, a.id, section?.id ?? '', due ?? ''].join('|'),
        kind,
        assessmentId: a.id,
        sectionId: section?.id ?? null,
        due,
        message,
        mend,
      })
    if (!placed || placed.size === 0) {
      if (a.counts) add('no placement', null, null, `${a.title} is set for no section.`, null)
      continue
    }
    const days = [...placed.values()].flatMap((p) => p.due ?? []).sort()
    const inTerm = days.find((d) => d >= term.firstDay && d <= term.lastDay)
    for (const section of sections) {
      const p = placed.get(section.id)
      const mend = (from: Day) => {
        const day = firstMeeting(section, from < term.firstDay ? term.firstDay : from)
        return day <= term.lastDay ? day : null
      }
      if (!p) {
        add('not set', section, null, `${a.title} is not set for ${section.name}.`, days[0] ? mend(days[0]) : null)
        continue
      }
      const { due, letOut } = p
      const early = !letOut ? null : letOut < term.firstDay ? 'the course begins' : due !== null && letOut < due ? 'it is due' : null
      if (early)
        findings.push({
          key: ['let out early', a.id, section.id, letOut].join('|'),
          kind: 'let out early',
          assessmentId: a.id,
          sectionId: section.id,
          due,
          message: `Marks of ${a.title} are let out in ${section.name} on ${said(letOut!)}, before ${early}.`,
          mend: null,
        })
      if (due === null) add('no date', section, null, `${a.title} has no date in ${section.name}.`, days[0] ? mend(days[0]) : null)
      else if (due < term.firstDay || due > term.lastDay)
        add('outside the term', section, due, `${a.title} in ${section.name} is due ${said(due)}, outside the term.`, mend(inTerm ?? due))
      else if (section.firstDay !== null && due < section.firstDay)
        add(
          'before the first day',
          section,
          due,
          `${a.title} is due ${said(due)}, before ${section.name} starts on ${said(section.firstDay)}.`,
          mend(due),
        )
      else if (!meetsOn(section, due) && weekdayOf(due) > 5)
        add('weekend', section, due, `${a.title} in ${section.name} is due on a ${WEEKDAYS[weekdayOf(due)]}.`, mend(due))
      else if (section.weekdays.length > 0 && !meetsOn(section, due))
        add(
          'no meeting',
          section,
          due,
          `${section.name} does not meet on a ${WEEKDAYS[weekdayOf(due)]}, when ${a.title} is due.`,
          mend(due),
        )
      const together = due === null ? [] : (onOneDay.get(section.id)?.get(due) ?? [])
      if (together.length > 1 && together[together.length - 1] === a.id) {
        const names = together.map((id) => titleOf.get(id) ?? id)
        add('several due', section, due, `${names.join(' and ')} are due on one day, ${said(due!)}, in ${section.name}.`, null)
      }
    }
  }
  return findings
}
