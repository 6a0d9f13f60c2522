import { markByStanding, percentsReadOff } from '#core/outcomes'
import { STATUSES } from '#core/grades'
import { HAS_WORK } from '#core/trial'
import { routes, type ByStanding, type CellWrite, type LevelsWorth, type OutcomeBody, type ScaleBody } from '#contract'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { outcomeLinks } from '../../kernel/outcomes/links'
import type { OutcomeNews } from '../../kernel/outcomes/news'
import { HttpProblem } from '../../kernel/problem'
import { libraryQueries } from '../../kernel/standards/queries'
import type { WorkerPool } from '../../workers/pool'
import { cellWriter } from './write-cells'

/** Marks that are written down in one go, so that whoever waits does not wait for all. */
const TOGETHER = 1000

interface Needs {
  plans: PlanLoader
  tables: TableLoader
  writes: CourseWrites
  pool: WorkerPool
  news: OutcomeNews
}

interface Row {
  assessmentId: string
  outcomeId: string
  percents: string
  byId: string
  scaleId: string | null
  labels: string | null
}

/**
 * Assessments whose marks are where students stand on an outcome. The marks are written down as if they were typed by whoever set it so,
 * each with its history, as soon as evidence comes in; a confirmed course is left as it is.
 */
export function byStandingRoutes(handle: Handle, db: Db, { plans, tables, writes, pool, news }: Needs): void {
  const write = cellWriter(db, plans)
  const { newest } = outcomeLinks(db)
  const library = libraryQueries(db)
  const rows = db.prepare<[string], Row>(
    `SELECT b.assessment_id AS assessmentId, b.outcome_id AS outcomeId, b.percents, b.by_id AS byId, b.scale_id AS scaleId, b.labels
     FROM by_standing b
     JOIN assessment a ON a.id = b.assessment_id WHERE a.course_id = ? ORDER BY a.position`,
  )
  const everywhere = db.prepare<[], { courseId: string; outcomeId: string }>(
    'SELECT DISTINCT a.course_id AS courseId, b.outcome_id AS outcomeId FROM by_standing b JOIN assessment a ON a.id = b.assessment_id',
  )
  const hasSome = db
    .prepare<[string], 1>('SELECT 1 FROM by_standing b JOIN assessment a ON a.id = b.assessment_id WHERE a.course_id = ? LIMIT 1')
    .pluck()
  const set = db.prepare(
    `INSERT INTO by_standing (assessment_id, outcome_id, percents, by_id, at, scale_id, labels)
     VALUES (@assessmentId, @outcomeId, @percents, @byId, @at, @scaleId, @labels)
     ON CONFLICT DO UPDATE SET outcome_id = excluded.outcome_id, percents = excluded.percents, by_id = excluded.by_id, at = excluded.at,
       scale_id = excluded.scale_id, labels = excluded.labels`,
  )
  const drop = db.prepare('DELETE FROM by_standing WHERE assessment_id = ?')
  const isRead = db.prepare<[string], object>(
    'SELECT 1 FROM reading r JOIN script s ON s.id = r.script_id WHERE s.assessment_id = ? LIMIT 1',
  )
  const isAway = db.prepare<[string], string | null>('SELECT away_at FROM course WHERE id = ?').pluck()

  /** Where a level came or went, marks stay as they are until somebody says what each level is worth. */
  function isWhole({ outcomeId, percents }: Row): boolean {
    const outcome = newest(outcomeId)
    return !!outcome && (JSON.parse(outcome.body) as OutcomeBody).levels.length === (JSON.parse(percents) as number[]).length
  }

  /** Marks that are another than where their students stand. */
  async function behind(courseId: string, own: readonly Row[]): Promise<{ cells: CellWrite[]; byId: string }[]> {
    const isNow = new Map(own.map((r) => [r.outcomeId, newest(r.outcomeId)?.id ?? r.outcomeId]))
    const levels = await pool.standingLevels(
      { file: db.name, courseId, outcomeIds: [...isNow.values()] },
      { personId: `standing ${courseId}` },
    )
    if (typeof levels === 'string') return []
    const { assessments, students, scripts } = tables.load(courseId)
    return own.map(({ assessmentId, outcomeId, percents, byId }) => {
      const at = assessments.findIndex((a) => a.id === assessmentId)
      const worth = JSON.parse(percents) as number[]
      const there = new Map<string, number>()
      scripts.assessment.forEach((a, i) => a === at && there.set(students[scripts.student[i]!]!.id, i))
      const cells = (levels[isNow.get(outcomeId)!] ?? []).flatMap(([studentId, level]): CellWrite[] => {
        const mark = markByStanding(level, worth, assessments[at]!.outOf)
        const i = there.get(studentId)
        const before = i === undefined ? null : scripts.entered[i]!
        // Who was exempt, absent or missing stays that.
        if (mark === before || (i !== undefined && !HAS_WORK[scripts.status[i]!])) return []
        const status = i === undefined ? 'in' : STATUSES[scripts.status[i]!]!
        return [
          {
            studentId,
            assessmentId,
            mark,
            status,
            daysLate: i === undefined ? 0 : scripts.daysLate[i]!,
            version: i === undefined ? 0 : scripts.version[i]!,
          },
        ]
      })
      return { cells, byId }
    })
  }

  /** Writes that were told of in each course while its marks are written down here, that one included. */
  const heard = new Map<string, number>()
  /** @returns how many marks were another and are written down now */
  async function follow(courseId: string): Promise<number> {
    const { plan } = plans.load(courseId)
    const known = new Set(plan.assessments.map((a) => a.id))
    const own = rows.all(courseId).filter((r) => known.has(r.assessmentId) && isWhole(r))
    if (own.length === 0 || plan.head.confirmedIssue !== null || isAway.get(courseId) !== null) return 0
    let marks = 0
    for (const { cells, byId } of await behind(courseId, own))
      for (let from = 0; from < cells.length; from += TOGETHER) {
        heard.set(courseId, 0)
        try {
          const { saved } = await writes.writeMarksTogether(
            courseId,
            () => write(courseId, cells.slice(from, from + TOGETHER), byId, 'lead', true),
            (done) => done.saved,
            (all) =>
              tables.patch(
                courseId,
                all.flatMap((done) => done.saved),
                all.length,
              ),
          )
          marks += saved.length
          // Somebody may have written in the same turn, or beside it: it is looked at once more.
          if (saved.length > 0 || heard.get(courseId)! > 1) doing.get(courseId)!.again = true
        } finally {
          heard.delete(courseId)
        }
      }
    return marks
  }

  /** One after the other in each course; asked for again meanwhile, it is done once more afterwards. */
  const doing = new Map<string, { again: boolean; done: Promise<number> }>()
  function keepUp(courseId: string): Promise<number> {
    const now = doing.get(courseId)
    if (now) {
      now.again = true
      return now.done
    }
    const own = { again: true, done: Promise.resolve(0) }
    doing.set(courseId, own)
    own.done = (async () => {
      let marks = 0
      try {
        while (own.again) {
          own.again = false
          marks += await follow(courseId)
        }
      } finally {
        doing.delete(courseId)
      }
      return marks
    })()
    return own.done
  }
  // What fails now is made good at the next change.
  const follows = (courseId: string) => void (hasSome.get(courseId) && keepUp(courseId).catch(() => 0))
  // What was written down by it is no evidence.
  writes.onAnyChange((courseId) => {
    const own = heard.get(courseId)
    if (own === undefined) follows(courseId)
    else heard.set(courseId, own + 1)
  })
  news.on(follows)
  news.onOutcome((id) => {
    for (const { courseId, outcomeId } of everywhere.all()) if (newest(outcomeId)?.id === id) follows(courseId)
  })

  const scaleOf = (id: string) => {
    const found = library.get(id)
    return found?.kind === 'scale' ? { title: found.title, ...(JSON.parse(found.body) as ScaleBody) } : null
  }

  /** What each level is worth in percent. */
  function percentsOf(worth: LevelsWorth): number[] {
    if (worth.kind === 'typed') return worth.percents
    const scale = scaleOf(worth.scaleId)
    const percents = scale && percentsReadOff(scale, worth.labels)
    if (!percents) throw new HttpProblem(404, scale ? `“${scale.title}” has no such label.` : 'There is no such scale.', { field: 'worth' })
    const over = worth.labels.find((_, i) => percents[i]! > 100)
    if (over !== undefined)
      throw new HttpProblem(422, `“${scale.labels[over]!.label}” is over 100% in “${scale.title}”: take another label.`, { field: 'worth' })
    return percents
  }

  handle(routes.byStanding, ({ params: { courseId } }) =>
    rows.all(courseId).map(({ assessmentId, outcomeId, percents: kept, scaleId, labels }): ByStanding => {
      const outcome = newest(outcomeId)
      const percents = JSON.parse(kept) as number[]
      const places = JSON.parse(labels ?? '[]') as number[]
      const scale = scaleId === null ? null : scaleOf(scaleId)
      return {
        assessmentId,
        outcomeId: outcome?.id ?? outcomeId,
        outcome: outcome?.title ?? '',
        worth: scaleId === null ? { kind: 'typed', percents } : { kind: 'scale', scaleId, labels: places },
        percents,
        scale: scale && { title: scale.title, labels: places.map((p) => scale.labels[p]?.label ?? '') },
      }
    }),
  )

  handle(routes.markByStanding, async ({ params: { courseId, assessmentId }, body: { outcomeId, worth }, me }) => {
    const assessment = plans.load(courseId).plan.assessments.find((a) => a.id === assessmentId)
    const outcome = newest(outcomeId)
    if (!assessment || !outcome) throw new HttpProblem(404, `There is no such ${assessment ? 'outcome' : 'assessment'}.`)
    const { levels } = JSON.parse(outcome.body) as OutcomeBody
    const percents = percentsOf(worth)
    if (percents.length !== levels.length)
      throw new HttpProblem(422, `“${outcome.title}” has ${levels.length} levels: say what each is worth.`, { field: 'worth' })
    if (percents.some((p, i) => i > 0 && p < percents[i - 1]!))
      throw new HttpProblem(422, 'A higher level must not be worth less than a lower one.', { field: 'worth' })
    if (isRead.get(assessmentId))
      throw new HttpProblem(409, `${assessment.title} is marked by readings: take another assessment, which is not read.`)
    const [scaleId, labels] = worth.kind === 'scale' ? [worth.scaleId, JSON.stringify(worth.labels)] : [null, null]
    const row = { assessmentId, outcomeId: outcome.id, percents: JSON.stringify(percents), byId: me.id, at: now(), scaleId, labels }
    writes.writeOpen(courseId, () => void set.run(row))
    return { marks: await keepUp(courseId) }
  })

  handle(routes.markByHand, ({ params: { courseId, assessmentId } }) =>
    writes.writeOpen(courseId, () => {
      if (!plans.load(courseId).plan.assessments.some((a) => a.id === assessmentId))
        throw new HttpProblem(404, 'There is no such assessment.')
      drop.run(assessmentId)
      return undefined
    }),
  )
}
