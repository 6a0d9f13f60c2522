import { createEvents, type EventAttributes } from 'ics'
import { shiftDay } from '#core/roll'
import type { PlanCore } from '../../kernel/course/load-plan'
import { HttpProblem } from '../../kernel/problem'

const parts = (day: string) => day.split('-').map(Number) as [number, number, number]

/** The due days of some sections as a calendar (iCalendar, RFC 5545): one whole-day event for each placement with a date. */
export function dueCalendar(plan: PlanCore, sectionIds: ReadonlySet<string>, name: string): string {
  const events = plan.placements.flatMap(([a, s, due]): EventAttributes[] => {
    const [assessment, section] = [plan.assessments[a]!, plan.sections[s]!]
    if (due === null || !sectionIds.has(section.id)) return []
    return [
      {
        uid: `${assessment.id}.${section.id}@level-table`,
        productId: 'level-table',
        calName: name,
        title: `${assessment.title} due, ${section.name}`,
        description: `${plan.head.code} ${plan.head.title}, ${plan.head.term}`,
        start: parts(due),
        end: parts(shiftDay(due, 1)),
        transp: 'TRANSPARENT',
      },
    ]
  })
  const { error, value } = createEvents(events, { productId: 'level-table', calName: name })
  if (error || !value) throw new HttpProblem(500, 'The calendar could not be written.')
  return value
}
