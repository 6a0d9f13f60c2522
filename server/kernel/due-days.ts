import type { Day } from '#core/roll'
import type { DayEvent } from './calendar'
import type { PlanCore } from './course/load-plan'
import type { Db } from './db/open'

interface Moved {
  key: string
  moves: number
  movedAt: string | null
}

const MOVED = `SELECT p.assessment_id || ' ' || p.section_id AS key, p.moves, p.moved_at AS movedAt
  FROM placement p JOIN assessment a ON a.id = p.assessment_id WHERE a.course_id = ? AND p.moves > 0`

/** Due days as events of a calendar, with the days on which teaching begins and ends, so that none is empty. */
export function dueDays(db: Db) {
  const moved = db.prepare<[string], Moved>(MOVED)
  /** @param sections of which due days are wanted; @param isTheirs which of them, where not all */
  return (
    plan: PlanCore,
    sections: ReadonlySet<string>,
    isTheirs: (assessmentId: string, sectionId: string) => boolean = () => true,
  ): DayEvent[] => {
    const { code, title, term, firstDay, lastDay, id } = plan.head
    const description = `${code} ${title}, ${term}`
    const since = new Map(moved.all(id).map((m) => [m.key, m]))
    const edge = (what: 'begins' | 'ends', day: Day): DayEvent => ({
      uid: `${id}.${what}@level-table`,
      title: `${code}: teaching ${what}`,
      description,
      day,
      moves: 0,
      movedAt: null,
    })
    const due = plan.placements.flatMap(([a, s, day]): DayEvent[] => {
      const [assessment, section] = [plan.assessments[a]!, plan.sections[s]!]
      if (day === null || !sections.has(section.id) || !isTheirs(assessment.id, section.id)) return []
      const { moves = 0, movedAt = null } = since.get(`${assessment.id} ${section.id}`) ?? {}
      return [
        {
          uid: `${assessment.id}.${section.id}@level-table`,
          title: `${assessment.title} due, ${section.name}`,
          description,
          day,
          moves,
          movedAt,
        },
      ]
    })
    return [edge('begins', firstDay), ...due, edge('ends', lastDay)]
  }
}
