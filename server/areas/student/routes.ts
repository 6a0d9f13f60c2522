import { sightOf } from '#core/roles'
import { routes, type Question } from '#contract'
import type { Clock } from '../../kernel/clock'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { WorkedOutMarks } from '../../kernel/course/worked-out'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import type { letterSender } from '../../kernel/letters'
import { HttpProblem } from '../../kernel/problem'
import { studentViews } from '../../kernel/student-view'
import { askedLetters } from './asked-letters'
import type { IssuedResults } from '../../kernel/course/issued-results'
import { ownWork } from './own-work'
import { questionQueries } from './question-queries'

interface Needs {
  plans: PlanLoader
  worked: WorkedOutMarks
  issued: IssuedResults
  send: ReturnType<typeof letterSender>
  clock: Clock
}

/** A student's own work, what they ask about it, and what their lead lets them see and do. */
export function studentRoutes(handle: Handle, db: Db, { plans, worked, issued, send, clock }: Needs): void {
  const workOf = ownWork(db, plans, worked, issued, clock)
  const questions = questionQueries(db)
  const views = studentViews(db)
  const letters = askedLetters(db, send)
  const names = db.prepare<[string], { names: number }>('SELECT names_to_markers AS names FROM course WHERE id = ?')

  handle(routes.ownWork, async ({ params: { courseId }, me }) => {
    const { studentId: _, ...own } = await workOf(courseId, me.id)
    return own
  })

  handle(routes.ask, async ({ params: { courseId }, body: { assessmentId, criterionId, reason }, me }) => {
    const { work, studentId } = await workOf(courseId, me.id)
    const about = work.find((w) => w.id === assessmentId)
    if (!about?.asking) throw new HttpProblem(404, 'There is no mark of yours there that can be asked about.')
    const { asking, mark } = about
    if (asking.until === null)
      throw new HttpProblem(409, 'The days for asking about this mark are over: speak to who teaches your section.')
    const criterion = asking.criteria.find((c) => c.id === criterionId)
    if (criterionId !== null && !criterion)
      throw new HttpProblem(422, 'This work is not judged by that (any more).', { field: 'criterionId' })
    const title = criterion?.title ?? null
    if (asking.questions.some((q) => q.about === title && q.answer === null))
      throw new HttpProblem(409, 'You have asked that already; it waits for an answer.')
    questions.ask({ scriptId: letters.scriptOf(assessmentId, studentId), criterionId, about: title, reason, markThen: mark })
    await letters.asked(courseId, { studentId, assessment: about.assessment, about: title, reason }, me)
    return undefined
  })

  const all = (courseId: string, role: string, personId: string): Question[] => {
    const sight = sightOf(role)
    const named = sight.names === 'always' || !!names.get(courseId)?.names
    return questions.all(courseId).flatMap(({ own, name, candidate, teacherId, ...q }) =>
      sight.students === 'all' || teacherId === personId
        ? [
            {
              ...own,
              studentId: q.studentId,
              assessmentId: q.assessmentId,
              scriptId: q.scriptId,
              student: named ? name : candidate,
              candidate,
              section: q.section,
              assessment: q.assessment,
              outOf: q.outOf,
              answeredBy: q.answeredBy,
            },
          ]
        : [],
    )
  }
  handle(routes.questions, ({ params: { courseId }, me, role }) => all(courseId, role, me.id))

  handle(routes.answerQuestion, async ({ params: { courseId, questionId }, body: { words }, me, role }) => {
    const question = all(courseId, role, me.id).find((q) => q.id === questionId)
    if (!question) throw new HttpProblem(404, 'There is no such question for you.')
    if (!questions.answer(questionId, words, me.id))
      throw new HttpProblem(409, `${question.answeredBy ?? 'Somebody'} has answered it already: look at it again.`)
    await letters.answered(courseId, question, words, me)
    return undefined
  })

  handle(routes.studentView, ({ params }) => views.of(params.courseId))
  handle(routes.setStudentView, ({ params: { courseId }, body }) => {
    if ('assessmentId' in body && !plans.load(courseId).plan.assessments.some((a) => a.id === body.assessmentId))
      throw new HttpProblem(422, 'There is no such assessment in this course (any more).', { field: 'assessmentId' })
    views.set(courseId, body)
    return views.of(courseId)
  })
}
