import { sightOf } from '#core/roles'
import { packingSheet, routes, type MarksUpload, type Role, type ScriptDetail, type SheetByCell } from '#contract'
import type { Response } from 'express'
import type { MarksFile } from '#core/exchange/marks-file'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import type { Ending } from '#core/exchange/media-types'
import { inTurns } from '../../kernel/in-turns'
import { sendFile } from '../../kernel/send-file'
import { knownByRoster } from '../../kernel/course/roster-ids'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import type { WorkerPool } from '../../workers/pool'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { tableSince } from '../../kernel/course/table-since'
import { attemptQueries } from './attempts'
import { earlierReadings } from './earlier-readings'
import { matchedBefore } from './matched-before'
import { readersOf, readNotTyped } from './readers'
import { tryMarksFile, type ChangedCell } from './marks-file'
import { scriptWords } from './script-words'
import { sheets } from './sheet'
import { cellWriter } from './write-cells'
import { markingQueries } from './queries'

/** Cells of one file that can be undone; more are told to nobody. */
const MOST_UNDONE = 50_000

export function markingRoutes(
  handle: Handle,
  db: Db,
  plans: PlanLoader,
  tables: TableLoader,
  writes: CourseWrites,
  pool: WorkerPool,
): void {
  const { sheetFor, cellsNow } = sheets(db, tables)
  const write = cellWriter(db, plans)

  handle(routes.sheet, async ({ params, me, look, role }) => {
    const sheet = await sheetFor(params.courseId, me.id, role)
    const writable = sheet.writable && look?.courseId !== params.courseId
    return inTurns(packingSheet({ ...sheet, writable }))
  })

  handle(routes.sheetSince, ({ params: { courseId, version }, me, role }) => {
    const since = writes.since(courseId, version)
    const cells = since && !since.plan ? cellsNow(courseId, since.cells, me.id, role) : null
    return { version: plans.load(courseId).plan.version, cells }
  })

  const since = tableSince(tables, writes)
  handle(routes.writeCells, async ({ params: { courseId }, body, me, role }) => {
    // Many save at once: what comes in one turn is made durable together.
    const done = await writes.writeMarksTogether(
      courseId,
      () => write(courseId, body.cells, me.id, role),
      ({ saved }) => saved,
      (all) =>
        tables.patch(
          courseId,
          all.flatMap(({ saved }) => saved),
          all.length,
        ),
    )
    if (body.tableVersion === undefined || !sightOf(role).oversees) return done
    const written = since(courseId, body.tableVersion, role)
    // A plan is a lot, and is fetched where it is taken apart.
    return written && !written.plan ? { ...done, since: written } : done
  })
  const { externals, remarks, since: changedAfter, mailed, script, readings, history, cell } = markingQueries(db)
  const sendSheet = (res: Response, courseId: string, ending: Ending, content: Uint8Array) => {
    const { code, term } = plans.load(courseId).plan.head
    return sendFile(res, `marks ${code} ${term}`, ending, content)
  }
  const takeOut = async (as: 'csv' | 'xlsx', courseId: string, { id: personId }: { id: string }, role: Role, res: Response) => {
    const sheet = await sheetFor(courseId, personId, role)
    return sendSheet(res, courseId, as, orProblem(await pool.sheetFile({ sheet, asOf: now(), as }, { personId })))
  }
  handle(routes.marksCsv, ({ params: { courseId }, me, role, res }) => takeOut('csv', courseId, me, role, res))
  handle(routes.marksXlsx, ({ params: { courseId }, me, role, res }) => takeOut('xlsx', courseId, me, role, res))

  /** Remarks beside typed marks, by student and assessment. */
  const remarksIn = (courseId: string) => new Map(remarks.all(courseId))
  handle(routes.marksRoster, async ({ params: { courseId }, me, role, res }) => {
    const { plan } = plans.load(courseId)
    const roster = {
      sheet: await sheetFor(courseId, me.id, role),
      of: {
        course: plan.head,
        day: now().slice(0, 10),
        components: plan.components,
        assessments: plan.assessments,
      },
      known: knownByRoster(db, courseId),
      // An id from outside may tell who somebody is, and goes to those who oversee the course.
      outside: new Map(!sightOf(role).externalIds ? [] : externals.all(courseId).map((s) => [s.id, s.externalId])),
      remarks: remarksIn(courseId),
    }
    return sendSheet(res, courseId, 'zip', orProblem(await pool.rosterFile(roster, { personId: me.id })))
  })
  /** What cells that were changed since a moment were at it; asked for once for each moment that a file names. */
  const changedSince = (courseId: string) => {
    const known = new Map<string, Map<string, ChangedCell>>()
    return (asOf: string) => {
      if (!known.has(asOf)) {
        if (known.size >= 20) throw new HttpProblem(422, 'The file puts together sheets of more than 20 moments: bring them in one by one.')
        known.set(asOf, new Map(changedAfter.all({ course: courseId, asOf }).map((c) => [`${c.studentId} ${c.assessmentId}`, c])))
      }
      return known.get(asOf)!
    }
  }

  const readers = readersOf(db)
  const matched = matchedBefore(db)
  const fileOf = async (courseId: string, body: MarksUpload, personId: string): Promise<MarksFile> => {
    const read = await pool.readMarks(
      {
        ...('text' in body ? { text: body.text } : { bytes: Buffer.from(body.file, 'base64') }),
        match: { ...body.match, known: matched.in(courseId) },
      },
      { personId },
    )
    if (typeof read === 'string') throw new HttpProblem(422, read, { field: 'file' })
    return read
  }
  /** Who reads what is shared out, an assessment at a time. */
  function* readersIn({ assessments }: SheetByCell) {
    const found = new Map<string, ReturnType<typeof readers.inAssessment>>()
    for (const { id } of assessments) {
      found.set(id, readers.inAssessment(id))
      yield
    }
    return found
  }
  const tryFile = async (courseId: string, file: MarksFile, me: string, role: Role) => {
    // An id from outside may tell who somebody is: it finds nobody for a marker.
    const candidateOf = new Map(
      !sightOf(role).externalIds ? [] : externals.all(courseId).flatMap((s) => (s.externalId ? [[s.externalId, s.candidate]] : [])),
    )
    const sheet = await sheetFor(courseId, me, role)
    const readBy = await inTurns(readersIn(sheet))
    return tryMarksFile(file, sheet, {
      candidateOf,
      candidateAt: new Map(!sightOf(role).externalIds ? [] : mailed.all(courseId).map((s) => [s.mail.toLowerCase(), s.candidate])),
      readNotTyped(studentId, assessmentId) {
        const whose = readBy.get(assessmentId)!.get(studentId)
        return whose ? readNotTyped(whose, me, sightOf(role).readings === 'all') : null
      },
      changedSince: changedSince(courseId),
      remarks: remarksIn(courseId),
    })
  }

  handle(
    routes.tryImport,
    async ({ params: { courseId }, body, me, role }) => (await tryFile(courseId, await fileOf(courseId, body, me.id), me.id, role)).tried,
  )

  handle(routes.bringIn, async ({ params: { courseId }, body, me, role }) => {
    // Found out beside what others write; a cell that is changed meanwhile has another version, and nothing is brought in.
    const { tried, writes: cells } = await tryFile(courseId, await fileOf(courseId, body, me.id), me.id, role)
    return writes.writeMarks(courseId, () => {
      if (tried.counts.refused !== (body.leaveOut ?? 0))
        throw new HttpProblem(
          422,
          `${tried.counts.refused} rows are refused, so nothing was brought in. Try the file to see which and why.`,
          { field: 'text' },
        )
      const { refused } = write(courseId, cells, me.id, role)
      if (refused[0]) throw new HttpProblem(409, refused[0].message)
      if (body.match && tried.table) matched.remember(courseId, tried.table)
      return { ...tried, changed: cells.length > MOST_UNDONE ? null : cells.map(({ version: _, ...c }) => c) }
    })
  })
  const { everyState } = earlierReadings(db)
  const wordsOn = scriptWords(db)
  const attempts = attemptQueries(db)

  handle(routes.cellStates, ({ params: { courseId, studentId, assessmentId }, me, role }) => {
    const row = cell.get(studentId, assessmentId, courseId)
    // Where nothing was recorded yet there is nothing to tell, and nothing to tell apart from what is not theirs.
    return row && (sightOf(role).students === 'all' || row.teacherId === me.id) ? history.all(row.id) : []
  })

  handle(routes.script, ({ params }): ScriptDetail => {
    const row = script.get(params.scriptId, params.courseId)
    if (!row) throw new HttpProblem(404, 'There is no such script.')
    return {
      id: row.id,
      student: { id: row.student, name: row.name, candidate: row.candidate, sectionId: row.section },
      assessmentId: row.assessment_id,
      status: row.status,
      daysLate: row.days_late,
      entered: row.entered,
      remark: row.remark,
      cameAt: row.came_at,
      readings: readings.all(row.id).map(({ id, picks, criterion_comments, ...r }) => ({
        ...r,
        afterSeeing: !!r.afterSeeing,
        earlier: everyState(id),
        picks: JSON.parse(picks) as Record<string, number>,
        criterionComments: JSON.parse(criterion_comments) as Record<string, string>,
      })),
      history: history.all(row.id),
      words: wordsOn(row.id),
      attempts: attempts.all(row.id),
    }
  })
}
