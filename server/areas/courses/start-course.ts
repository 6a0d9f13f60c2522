import { randomUUID } from 'node:crypto'
import { partOf } from '#core/grades'
import { movedFirstDay } from '#core/roll'
import type { KeptCondition } from '#core/trial'
import { routes, type CourseHead, type NewCourse, type Policy } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { PlanCore, PlanLoader } from '../../kernel/course/load-plan'
import { studentViews } from '../../kernel/student-view'
import { assessmentCopier } from '../../kernel/course/assessment-copier'
import { startQueries } from './queries'
import { writing } from '../../kernel/db/transactions'

/** What a course has before anybody says otherwise. */
const POLICY: Policy = {
  missing: { kind: 'zero' },
  absent: { kind: 'pending' },
  late: { kind: 'none' },
  rounding: { decimals: 1 },
  above100: 'cap',
}
const BOUNDARIES = [
  { grade: 'Pass', from: 50 },
  { grade: 'Fail', from: 0 },
]

/** Starts a course from nothing or from another one, with what is wanted of it and never its marks. */
export function startCourseRoutes(handle: Handle, db: Db, plans: PlanLoader, audit: AuditList): void {
  const { leads, role, mayLead, same, insert, showOutcomes, setConditions, insertRole, copyRoles, insertSection, insertComponent } =
    startQueries(db)
  const copier = assessmentCopier(db)
  const views = studentViews(db)

  handle(routes.startCourse, ({ body, me }): CourseHead => {
    if (leads.get(me.id)!.n === 0) throw new HttpProblem(403, 'A course is started by who leads one, or by whoever runs this installation.')
    if (body.from !== null && !role.get(body.from, me.id))
      throw new HttpProblem(404, 'There is no such course among those you lead.', { field: 'from' })
    if (same.get(body.code, body.term))
      throw new HttpProblem(422, `${body.code} in ${body.term} is there already: give another code or term.`, { field: 'term' })
    if (body.leadId !== null && !mayLead.get(body.leadId, me.id))
      throw new HttpProblem(422, 'There is no such person, or you do not administer this installation.', { field: 'leadId' })
    const from = body.from === null ? null : plans.load(body.from).plan
    const id = randomUUID()
    writing(db, () => {
      start(id, body, from, body.leadId ?? me.id)
      audit.note({ kind: 'course changed', by: me.id, about: body.leadId, courseId: id, words: 'started' })
    })
    return plans.head(id, 'lead')
  })

  function start(id: string, body: NewCourse, from: PlanCore | null, lead: string): void {
    const { take, code, title, term, firstDay, lastDay } = body
    const policy = from && take.plan ? from.policy : POLICY
    const boundaries = from && take.boundaries ? from.boundaries : BOUNDARIES
    insert.run(id, code, title, term, firstDay, lastDay, JSON.stringify(policy), JSON.stringify(boundaries))
    insertRole.run(id, lead, 'lead')
    if (!from) return
    if (take.people) copyRoles.run(id, from.head.id, lead)
    const to = { firstDay, lastDay }
    const sections: PlanCore['sections'] = []
    if (take.people || take.placements)
      for (const s of from.sections) {
        const own = { ...s, id: randomUUID(), firstDay: s.firstDay && movedFirstDay(s.firstDay, from.head, to, s.weekdays) }
        insertSection.run({ id: own.id, courseId: id, of: s.id, people: Number(take.people), firstDay: own.firstDay })
        sections.push(own)
      }
    if (!take.plan) return
    /** What each component and assessment became. */
    const became = new Map<string, string>()
    from.components.forEach((c, at) => {
      const componentId = randomUUID()
      became.set(c.id, componentId)
      insertComponent.run(componentId, id, c.title, c.weight, c.combine, c.dropLowest, Number(c.bonus), at)
      for (const a of from.assessments.filter((x) => x.componentId === c.id)) {
        const copy = copier.copy(
          a,
          { courseId: id, componentId, title: a.title, counts: a.counts },
          { standard: take.standards, passMark: true, moderation: true, notes: true },
        )
        became.set(a.id, copy)
        if (take.placements) copier.placeLike(a.id, from, copy, { sections, head: to })
      }
    })
    views.copy(from.head.id, id, became)
    if (take.standards) showOutcomes.run({ id, by: lead, at: now(), from: from.head.id })
    if (!take.boundaries) return
    const conditions = from.conditions.map((c): KeptCondition => {
      const id = randomUUID()
      return 'componentId' in c
        ? { ...c, id, componentId: became.get(c.componentId)! }
        : { ...c, id, assessmentId: became.get(c.assessmentId)! }
    })
    setConditions.run(JSON.stringify(conditions.filter((c) => partOf(c) !== undefined)), id)
  }
}
