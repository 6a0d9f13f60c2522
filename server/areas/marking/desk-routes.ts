import type { Status } from '#core/grades'
import { hasWork, scriptIdOf } from '#core/trial'
import { sightOf } from '#core/roles'
import { routes, SEES_NOTHING, type DeskScript, type OtherReading, type Pile, type ReadingBody, type Sees } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { sendAs } from '../../kernel/send-file'
import { madeOver } from '../../kernel/version'
import { HttpProblem } from '../../kernel/problem'
import { libraryQueries } from '../../kernel/standards/queries'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { TableLoader } from '../../kernel/course/load-table'
import { toAssessment, type AssessmentRow } from '../../kernel/course/rows'
import { picksMeant, picksShown, shownOf } from '../../kernel/standards/hidden'
import { asUsed, markOf, markSoFar, standardsOf } from '../../kernel/standards/judge'
import { gateFor } from '../../kernel/standards/exemplars'
import { allotmentQueries } from '../../kernel/course/allotments'
import { betweenTwo } from './between'
import { writeDelimited } from '#core/exchange/write-delimited'
import { sendFile } from '../../kernel/send-file'
import { blindNumbers } from './blind-numbers'
import { attemptQueries, type NextReadingRow } from './attempts'
import { earlierReadings } from './earlier-readings'
import { deskQueries, MOST_IN_STOCK, MOST_STATES, type OwnReadingRow } from './desk-queries'

/** The marking desk: a marker's own piles and readings. What they may not see is not sent. */
export function deskRoutes(handle: Handle, db: Db, tables: TableLoader, writes: CourseWrites): void {
  const desk = deskQueries(db)
  const attempts = attemptQueries(db)
  const { earlier } = earlierReadings(db)
  const allotments = allotmentQueries(db)
  const inLibrary = standardsOf(libraryQueries(db))
  const gateOf = gateFor(db)
  const blind = blindNumbers(db)
  const between = betweenTwo(db)
  const assessments = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const students = db.prepare<[string], { id: string; name: string; candidate: string }>(
    'SELECT id, name, candidate FROM student WHERE course_id = ?',
  )
  const onRoll = db.prepare<[string], { id: string; name: string; candidate: string; section: string }>(
    `SELECT s.id, s.name, s.candidate, c.name AS section FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
     JOIN section c ON c.id = e.section_id WHERE s.course_id = ? ORDER BY c.position, s.name, s.id`,
  )
  const names = db.prepare<[string], { names: number }>('SELECT names_to_markers AS names FROM course WHERE id = ?')

  const assessmentOf = (courseId: string, id: string): AssessmentRow => {
    const row = assessments.get(id, courseId)
    if (!row || row.away) throw new HttpProblem(404, 'There is no such assessment.')
    return row
  }
  /** By which id and how students are called on this marker's desk. */
  const called = (courseId: string, row: AssessmentRow, studentIds: readonly string[]): Map<string, { id: string; label: string }> => {
    if (row.blind) return new Map([...blind.of(row.id, studentIds)].map(([id, s]) => [id, { id: s.id, label: s.number }]))
    const byNumber = !names.get(courseId)?.names
    return new Map(students.all(courseId).map((s) => [s.id, { id: s.id, label: byNumber ? s.candidate : s.name }]))
  }
  /** The student that is meant by an id of this desk. */
  const meant = (row: AssessmentRow, id: string): string => (row.blind ? (blind.studentOf(row.id, id) ?? '') : id)
  const pileOf = (row: AssessmentRow, markerId: string) => desk.pile(row.id, markerId)
  const standardFor = (row: AssessmentRow, own: OwnReadingRow | null) => {
    // A reading keeps the version that it was begun with.
    const standard = inLibrary(own ? own.standardId : row.standard_id)
    return standard?.kind === 'rubric' ? { ...standard, body: asUsed(standard.body, toAssessment(row).use) } : standard
  }

  handle(routes.blindKey, ({ params: { courseId, assessmentId }, res }) => {
    const row = assessmentOf(courseId, assessmentId)
    if (!row.blind) throw new HttpProblem(409, `Markers of ${row.title} see names or candidate numbers: there is no key to export.`)
    const roll = onRoll.all(courseId)
    const numbers = blind.of(
      row.id,
      roll.map((s) => s.id),
    )
    const rows = roll.map((s) => [numbers.get(s.id)!.number, s.candidate, s.name, s.section])
    return sendFile(res, `${row.title}, numbers of papers`, 'csv', writeDelimited([['number', 'candidate', 'name', 'section'], ...rows]))
  })

  handle(routes.piles, ({ params: { courseId }, me, look }) =>
    desk.piles(courseId, me.id).map((id): Pile => {
      const row = assessmentOf(courseId, id)
      const own = pileOf(row, me.id)
      const { gate, unread } = gateOf(id, me.id)
      return {
        assessmentId: id,
        title: row.title,
        marking: row.marking,
        total: own.length,
        draft: look ? 0 : own.filter((s) => s.state === 'draft').length,
        handedIn: own.filter((s) => s.state === 'handed in').length,
        due: allotments.deadlines(id).get(me.id) ?? null,
        gate,
        unreadExemplars: unread,
      }
    }),
  )

  handle(routes.pile, ({ params: { courseId, assessmentId }, me, look }) => {
    const row = assessmentOf(courseId, assessmentId)
    const own = pileOf(row, me.id)
    const names = called(
      courseId,
      row,
      own.map((s) => s.studentId),
    )
    const { hidePoints } = toAssessment(row).use
    return own.map(({ studentId, state, mark, status, again }) => {
      // What is not handed in is its marker's alone, also where somebody looks as they would.
      const unfinished = state === 'draft' && look !== null
      return {
        studentId: names.get(studentId)?.id ?? studentId,
        again,
        label: names.get(studentId)?.label ?? '',
        status: statusOnDesk(row, status),
        state: unfinished || state === null ? ('untouched' as const) : state,
        mark: hidePoints || unfinished ? null : mark,
      }
    })
  })

  /** Read blind, a script is not known again by how it came in. */
  const statusOnDesk = (row: AssessmentRow, status: Status): Status => (row.blind && hasWork(status) ? 'in' : status)

  const allotted = (row: AssessmentRow, studentId: string, markerId: string) => {
    if (!pileOf(row, markerId).some((s) => s.studentId === studentId))
      throw new HttpProblem(404, 'This script is not in your pile (any more).')
  }

  handle(routes.deskScript, ({ params: { courseId, assessmentId, studentId: id }, me, look }): DeskScript => {
    const row = assessmentOf(courseId, assessmentId)
    const studentId = meant(row, id)
    allotted(row, studentId, me.id)
    const assessment = toAssessment(row)
    const script = desk.script(assessmentId, studentId)
    const kept = script && desk.own(script.id, me.id)
    // What is not handed in is its marker's alone.
    const own = kept && look && kept.state === 'draft' ? null : kept
    const anew = !!own && isAnew(own)
    const next = anew && !look ? attempts.next(own.id) : null
    const handedIn = own?.state === 'handed in' && !anew
    const settledBy = handedIn || anew ? desk.settledBy(script!.id) : null
    const others =
      handedIn || anew
        ? othersOf(row, desk.others(script!.id, me.id), (picks) => picksShown(standardFor(row, own), picks, assessment.use))
        : []
    const pair = handedIn ? between.of(row, script!.id, me.id) : null
    if ((others.length > 0 || pair) && !look) desk.saw(own!.id)
    const { title, outOf, marking, use, notes } = assessment
    const standard = standardFor(row, own)
    const shown = (body: ReadingBody): ReadingBody => ({
      ...body,
      judged: { ...body.judged, picks: picksShown(standard, body.judged.picks, use) },
    })
    const came = script ? attempts.all(script.id) : []
    return {
      studentId: id,
      label: called(courseId, row, [studentId]).get(studentId)?.label ?? '',
      status: statusOnDesk(row, script?.status ?? 'in'),
      daysLate: row.blind ? 0 : (script?.daysLate ?? 0),
      cameAt: row.blind ? null : (script?.cameAt ?? null),
      attempts: row.blind ? came.map((a) => ({ ...a, cameAt: null })) : came,
      assessment: { id: assessment.id, title, outOf, marking, use, notes },
      standard: standard && shownOf(standard, use),
      own: !own
        ? NOTHING
        : anew
          ? { ...shown(bodyOf({ ...own, ...next })), state: next ? 'draft' : 'untouched', version: next?.version ?? 0, mark: null }
          : { ...shown(bodyOf(own)), state: own.state, version: own.version, mark: use.hidePoints ? null : own.mark },
      before: anew ? { attempt: own.attempt, mark: use.hidePoints ? null : own.mark } : null,
      earlier: own && !use.hidePoints ? earlier(own.id) : [],
      others,
      seen: own !== null && desk.hasSeen(own.id),
      between: pair,
      fixed: settledBy && `${settledBy} has agreed a mark on it: ask for that to be withdrawn first.`,
    }
  })

  /** The student handed in anew after the reading was. */
  function isAnew(own: OwnReadingRow): boolean {
    return own.state === 'handed in' && attempts.latest(own.scriptId) > own.attempt
  }

  handle(
    routes.keepReading,
    ({ params: { courseId, assessmentId, studentId: id }, body: { version, state, gapMeant, afterSeeing, ...sent }, me }) => {
      const row = assessmentOf(courseId, assessmentId)
      const studentId = meant(row, id)
      const scriptId = desk.script(assessmentId, studentId)?.id ?? scriptIdOf(assessmentId, studentId)
      const before = desk.own(scriptId, me.id)
      const work = () => {
        allotted(row, studentId, me.id)
        const { gate, unread } = gateOf(assessmentId, me.id)
        if (gate === 'held')
          throw new HttpProblem(
            409,
            unread > 0 ? `Read the exemplars of ${row.title} first.` : `The lead holds the marking of ${row.title} for you.`,
          )
        const own = desk.own(scriptId, me.id)
        const standard = standardFor(row, own)
        const { outOf, use } = toAssessment(row)
        const kept = own ? (JSON.parse((isAnew(own) ? (attempts.next(own.id) ?? own) : own).picks) as Record<string, number>) : {}
        const body: ReadingBody = { ...sent, judged: { ...sent.judged, picks: picksMeant(standard, sent.judged.picks, use, kept) } }
        const told = (r: OwnReadingRow): ReadingBody => {
          const there = bodyOf(r)
          return { ...there, judged: { ...there.judged, picks: picksShown(standard, there.judged.picks, use) } }
        }
        const judged = standard ? { ...body.judged, mark: null } : body.judged
        const of = { outOf, use, completion: row.marking === 'completion' }
        const mark = state === 'handed in' ? markOf(judged, standard, { ...of, gapMeant }).mark : markSoFar(judged, standard, of)
        const answer = (v: number) => ({ version: v, mark: use.hidePoints ? null : mark, state })
        const attempt = attempts.latest(scriptId)
        if (own && isAnew(own)) {
          const next: Pick<NextReadingRow, 'version'> = attempts.next(own.id) ?? { version: 0 }
          if (state === 'draft') {
            if (next.version !== version && sameBody({ ...own, ...next }, body)) return answer(next.version)
            const drafted = { version: next.version, ...told({ ...own, ...next }), state: 'draft' }
            madeOver(version, drafted, 'You changed this reading in another window.')
            attempts.keepNext(own.id, body, mark)
            return answer(next.version + 1)
          }
          requireUnsettled(scriptId)
          desk.change(own.id, body, mark, 'handed in', attempt)
          attempts.dropNext(own.id)
          return answer(own.version + 1)
        }
        if (!own) {
          if (version !== 0) throw new HttpProblem(409, 'This reading is not there (any more): open the script again.')
          desk.begin({ scriptId, assessmentId, studentId, markerId: me.id, standardId: standard?.id ?? null }, body, mark, state, attempt)
          return answer(1)
        }
        // Sent again because the answer was lost: it is there already.
        if ((own.version !== version || own.state === 'handed in') && own.state === state && sameBody(own, body)) return answer(own.version)
        madeOver(version, { version: own.version, ...told(own), state: own.state }, 'You changed this reading in another window.')
        if (own.state === 'handed in') requireUnsettled(scriptId)
        if (own.state !== state && desk.states(own.id) >= MOST_STATES)
          throw new HttpProblem(409, 'This reading was handed in and taken back too often: ask the lead to settle it.')
        const seen = desk.hasSeen(own.id)
        if (seen && own.state === 'handed in' && !afterSeeing)
          throw new HttpProblem(
            409,
            'You have seen how others read this script. Changed now, the lead sees that it was changed after that.',
            {
              field: 'afterSeeing',
            },
          )
        desk.change(own.id, body, mark, state, attempt, seen)
        return answer(own.version + 1)
      }
      // A draft is nobody's but the marker's: other open pages need not hear of it.
      if (state === 'draft' && before?.state !== 'handed in') return writes.quietOpen(courseId, work)
      const cells = [{ studentId, assessmentId }]
      const done = writes.writeMarks(courseId, work, () => cells)
      tables.patchReadings(courseId, cells)
      return done
    },
  )

  const requireUnsettled = (scriptId: string) => {
    const by = desk.settledBy(scriptId)
    if (by) throw new HttpProblem(409, `${by} has agreed a mark on it: ask for that to be withdrawn first.`)
  }

  /** One's own script of two that may agree; nobody else's open pages need hear of it but the lead's. */
  const withOwn = (
    courseId: string,
    assessmentId: string,
    id: string,
    markerId: string,
    work: (row: AssessmentRow, scriptId: string) => void,
  ) => {
    const row = assessmentOf(courseId, assessmentId)
    const studentId = meant(row, id)
    writes.writeMarks(
      courseId,
      () => {
        allotted(row, studentId, markerId)
        work(row, desk.script(assessmentId, studentId)?.id ?? '')
      },
      () => [],
    )
    tables.patchReadings(courseId, [])
    return undefined
  }
  handle(routes.proposeBetween, ({ params: { courseId, assessmentId, studentId }, body, me }) =>
    withOwn(courseId, assessmentId, studentId, me.id, (row, scriptId) => between.propose(row, scriptId, me.id, body)),
  )
  handle(routes.answerBetween, ({ params: { courseId, assessmentId, studentId }, body, me }) =>
    withOwn(courseId, assessmentId, studentId, me.id, (row, scriptId) => between.answer(row, scriptId, me.id, body)),
  )
  handle(routes.withdrawBetween, ({ params: { courseId, assessmentId, studentId }, me }) =>
    withOwn(courseId, assessmentId, studentId, me.id, (_, scriptId) => between.withdraw(scriptId, me.id)),
  )
  handle(routes.between, ({ params: { courseId } }) => between.all(courseId))

  handle(routes.attemptFile, ({ params: { courseId, assessmentId, studentId: id, attempt }, me, role, res }) => {
    const row = assessmentOf(courseId, assessmentId)
    const { readings } = sightOf(role)
    const studentId = readings === 'all' ? id : meant(row, id)
    if (readings !== 'all') allotted(row, studentId, me.id)
    const script = desk.script(assessmentId, studentId)
    const file = script && attempts.file(script.id, attempt)
    if (!file) throw new HttpProblem(404, 'There is no PDF of that attempt.')
    return sendAs(res, null, MEDIA_TYPES.pdf, file)
  })

  handle(routes.keptComments, ({ me, look }) => (look ? [] : desk.comments(me.id)))
  handle(routes.keepComment, ({ body, me }) => {
    const kept = desk.keepComment(me.id, body.words)
    if (!kept) throw new HttpProblem(409, `Your stock holds ${MOST_IN_STOCK} comments: take one out before you keep another.`)
    return kept
  })
  handle(routes.dropComment, ({ params, me }) => {
    if (!desk.dropComment(me.id, params.commentId)) throw new HttpProblem(404, 'There is no such comment in your stock.')
    return undefined
  })
}

const NOTHING: DeskScript['own'] = {
  judged: { picks: {}, judgement: null, mark: null },
  comment: '',
  criterionComments: {},
  notes: '',
  state: 'untouched',
  version: 0,
  mark: null,
}

const bodyOf = (r: OwnReadingRow): ReadingBody => ({
  judged: { picks: JSON.parse(r.picks) as Record<string, number>, judgement: r.judgement, mark: r.standardId === null ? r.mark : null },
  comment: r.comment,
  criterionComments: JSON.parse(r.criterionComments) as Record<string, string>,
  notes: r.notes,
})

const sorted = (o: Record<string, unknown>) => JSON.stringify(Object.entries(o).sort(([a], [b]) => (a < b ? -1 : 1)))
function sameBody(own: OwnReadingRow, body: ReadingBody): boolean {
  const was = bodyOf(own)
  return (
    sorted(was.judged.picks) === sorted(body.judged.picks) &&
    was.judged.judgement === body.judged.judgement &&
    (own.standardId !== null || was.judged.mark === body.judged.mark) &&
    was.comment === body.comment &&
    was.notes === body.notes &&
    sorted(was.criterionComments) === sorted(body.criterionComments)
  )
}

/** Of others' readings what the assessment lets a marker see; nobody is named. */
function othersOf(
  row: AssessmentRow,
  readings: OwnReadingRow[],
  shown: (picks: Record<string, number>) => Record<string, number>,
): OtherReading[] {
  const sees: Sees = { ...SEES_NOTHING, ...(JSON.parse(row.sees) as Partial<Sees>) }
  if (!sees.marks && !sees.comments && !sees.notes) return []
  const hidesPoints = toAssessment(row).use.hidePoints
  return readings.map((r, i) => {
    const body = bodyOf(r)
    return {
      marker: `another reader${readings.length > 1 ? ` (${i + 1})` : ''}`,
      mark: sees.marks && !hidesPoints ? r.mark : null,
      picks: sees.marks ? shown(body.judged.picks) : null,
      judgement: sees.marks ? r.judgement : null,
      comment: sees.comments ? r.comment : null,
      criterionComments: sees.comments ? body.criterionComments : null,
      notes: sees.notes ? r.notes : null,
    }
  })
}
