import { randomUUID } from 'node:crypto'
import { firstMeeting, movedDue, movedRelease, sameDayInTerm, type Term } from '#core/roll'
import type { Plan, Taken } from '#contract'
import type { Db } from '../db/open'
import type { PlanCore } from './load-plan'

type Assessment = Plan['assessments'][number]

/** Copies of assessments, with what is wanted of them; never with marks. */
export function assessmentCopier(db: Db) {
  const insert = db.prepare(
    `INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, worth, worth_follows, counts, bonus, droppable, pass_mark,
       tolerance, readings_wanted, step, blind, use, standard_id, notes, position)
     VALUES (@id, @courseId, @componentId, @title, @marking, @outOf, @worth, @worthFollows, @counts, @bonus, @droppable, @passMark,
       @tolerance, @readingsWanted, @step, coalesce((SELECT blind FROM assessment WHERE id = @of), 0), @use, @standardId, @notes,
       (SELECT coalesce(max(position), -1) + 1 FROM assessment WHERE course_id = @courseId))`,
  )
  const judgements = db.prepare(
    'INSERT INTO outcome_judgement (assessment_id, outcome_id) SELECT @id, outcome_id FROM outcome_judgement WHERE assessment_id = @of',
  )
  const place = db.prepare('INSERT INTO placement (assessment_id, section_id, due, release) VALUES (?, ?, ?, ?)')

  return {
    copy(
      a: Omit<Assessment, 'componentId' | 'version'>,
      to: { courseId: string; componentId: string; title: string; counts: boolean },
      take: Omit<Taken, 'placements'>,
    ): string {
      const id = randomUUID()
      insert.run({
        id,
        of: a.id,
        ...to,
        counts: Number(to.counts),
        marking: a.marking,
        outOf: a.outOf,
        worth: a.worth,
        worthFollows: Number(a.worthFollows),
        bonus: Number(a.bonus),
        droppable: Number(a.droppable),
        passMark: take.passMark ? a.passMark : null,
        tolerance: take.moderation ? a.tolerance : 0,
        readingsWanted: take.moderation ? a.readingsWanted : 1,
        step: take.moderation ? a.step : null,
        standardId: take.standard ? a.standardId : null,
        use: take.standard ? JSON.stringify(a.use) : '{}',
        notes: take.notes ? a.notes : '',
      })
      // What its overall judgement tells of goes along with what it is judged by.
      if (take.standard) judgements.run({ id, of: a.id })
      return id
    },
    /**
     * Sets a copy for the sections of a course as its original was set, by section name; others by its first week.
     * @returns the names of those that had not begun by then, and are left out
     */
    placeLike(original: string, from: PlanCore, copy: string, to: Pick<PlanCore, 'sections'> & { head: Term }): string[] {
      const at = from.assessments.findIndex((a) => a.id === original)
      const own = from.placements.filter(([a]) => a === at)
      const byName = new Map(own.map((p) => [from.sections[p[1]]!.name.toLowerCase(), p]))
      const first = own.flatMap(([, , due]) => due ?? []).sort()[0] ?? null
      const leftOut: string[] = []
      for (const section of to.sections) {
        const like = byName.get(section.name.toLowerCase())
        if (!like && from.sections.some((s) => s.name.toLowerCase() === section.name.toLowerCase())) continue
        const release = JSON.stringify(
          movedRelease(from.releases[like?.[3] ?? own[0]?.[3] ?? 0] ?? { kind: 'confirmed' }, from.head, to.head),
        )
        const wanted = like ? like[2] : first
        if (wanted !== null && section.firstDay !== null && section.firstDay > sameDayInTerm(wanted, from.head, to.head)) {
          leftOut.push(section.name)
          continue
        }
        const due = like
          ? like[2] && movedDue(like[2], from.head, to.head, section)
          : first && firstMeeting(section, sameDayInTerm(first, from.head, to.head))
        place.run(copy, section.id, due, release)
      }
      return leftOut
    },
  }
}
