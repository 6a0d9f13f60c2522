import { markingBy } from '#core/marking'
import type { Response } from 'express'
import { checkScale } from '#core/scales'
import { workingsOf } from '#core/trial'
import { writeCase } from '#core/exchange/case'
import { writeDelimited } from '#core/exchange/write-delimited'
import { writeWorkbook } from '#core/exchange/workbook'
import { routes, type Library, type LibraryFile, type RubricBody, type Standard } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import type { Ending } from '#core/exchange/media-types'
import { sendFile } from '../../kernel/send-file'
import { madeOver } from '../../kernel/version'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import { toAssessment } from '../../kernel/course/rows'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { TableLoader } from '../../kernel/course/load-table'
import type { WorkerPool } from '../../workers/pool'
import { shownOf, type Hides } from '../../kernel/standards/hidden'
import { carrier } from '../../kernel/standards/carry'
import { recognised } from '../../kernel/standards/library-file'
import { uuidOf } from '../../kernel/uuid'
import { entryAsCase, entryPackage, outcomeOf, tableOf } from '../../kernel/standards/taken-out'
import type { OutcomeNews } from '../../kernel/outcomes/news'
import { libraryQueries, type StandardRow } from '../../kernel/standards/queries'
import { attachQueries } from './queries'

const MOST_SUGGESTIONS = 50
const WORDS = { rubric: 'rubric', scheme: 'mark scheme', scale: 'scale', outcome: 'outcome' } as const

/** The library that the department shares: whoever leads a course makes for it; an owner alone edits. */
export function scaleRoutes(handle: Handle, db: Db, tables: TableLoader, writes: CourseWrites, pool: WorkerPool, news: OutcomeNews): void {
  const carriedOver = carrier(db)
  const library = libraryQueries(db)
  const { assessment, readings, attach, marksIn } = attachQueries(db)
  /**
   * What of an entry somebody may not see since they mark by it, in whichever course they do and through whichever they ask; their own
   * entries they see.
   */
  const hiddenFrom = ({ id, ownerId }: Pick<StandardRow, 'id' | 'ownerId'>, personId: string): Hides => {
    if (ownerId === personId) return { hidePoints: false, hideWords: false }
    const mine = new Set(marksIn.all(personId).map((c) => c.id))
    const uses = library.uses(library.newestOf(id)).filter((u) => mine.has(u.courseId))
    return { hidePoints: uses.some((u) => u.hidesPoints), hideWords: uses.some((u) => u.hidesWords) }
  }
  const requireWholeInSight = (row: StandardRow, personId: string) => {
    const hides = hiddenFrom(row, personId)
    if (hides.hidePoints || hides.hideWords) throw new HttpProblem(403, `Part of ${row.title} is hidden while you mark by it.`)
  }

  handle(routes.library, ({ me }) => {
    const found: Library = { rubrics: [], schemes: [], scales: [], outcomes: [] }
    for (const { kind, body, read, superseded, editedAt: _, ...head } of library.listed()) {
      const hides = hiddenFrom(head, me.id)
      const entry = {
        ...head,
        read: !!read,
        superseded: !!superseded,
        uses: library.uses(head.id),
        suggestions: library.suggestions(head.id),
        ...(hides.hidePoints || hides.hideWords ? { hides: { points: hides.hidePoints, words: hides.hideWords } } : {}),
        ...inSight({ kind, body }, hides),
      }
      if (kind === 'rubric') found.rubrics.push(entry as Library['rubrics'][number])
      if (kind === 'scheme') found.schemes.push(entry as Library['schemes'][number])
      if (kind === 'scale') found.scales.push(entry as Library['scales'][number])
      if (kind === 'outcome') found.outcomes.push(entry as Library['outcomes'][number])
    }
    // An outcome is used where a rubric is that gives evidence of it.
    for (const o of found.outcomes) {
      const linked = found.rubrics.filter((r) => !r.superseded && r.criteria.some((c) => c.outcomeIds?.includes(o.id)))
      const uses = new Map(linked.flatMap((r) => r.uses.map((u) => [u.assessmentId, u] as const)))
      o.uses = [...uses.values()]
    }
    return found
  })

  /** What somebody marks by keeps something to mark by. */
  const requireNotEmptied = ({ id, title }: StandardRow, body: object) => {
    const { criteria, labels } = body as { criteria?: unknown[]; labels?: unknown[] }
    const parts = criteria ?? labels
    if (parts?.length === 0 && library.uses(id).length > 0)
      throw new HttpProblem(
        409,
        `${title} is in use: leave it at least one ${criteria ? 'criterion' : 'label'}, so that work can still be marked by it.`,
      )
  }
  const existing = (id: string): StandardRow => {
    const row = library.get(id)
    if (!row) throw new HttpProblem(404, 'There is no such entry in the library.')
    return row
  }
  const owned = (id: string, me: { id: string }): StandardRow => {
    const row = existing(id)
    if (row.ownerId !== me.id) throw new HttpProblem(403, `${row.title} is ${row.owner}’s. Take a copy and change that.`)
    const next = library.nextOf(row.id)
    if (next) throw new HttpProblem(409, `There is a newer version of ${row.title}: open that one.`, { current: { id: next } })
    return row
  }

  handle(routes.addStandard, ({ params, body: { standard, source }, me }) =>
    writes.write(params.courseId, () => ({
      id: library.add({ ...standard, title: library.freeTitle(standard.title) } as Standard, me.id, { source }),
    })),
  )

  /** Tells of a changed outcome once it is written. */
  const told = (edited: { id: string; revision: number }) => {
    if (existing(edited.id).kind === 'outcome') news.tellOutcome(edited.id)
    return edited
  }

  handle(routes.editStandard, ({ params: { courseId, standardId }, body: { revision, standard }, me }) =>
    told(
      writes.write(courseId, () => {
        // Sent again because the answer was lost: it is there already, in this version or as the next one.
        const next = library.nextOf(standardId)
        const there = existing(next ?? standardId)
        const sentBefore = there.ownerId === me.id && there.revision === (next ? 1 : revision + 1)
        if (sentBefore && there.title === standard.title && there.body === JSON.stringify(standard.body))
          return { id: there.id, revision: there.revision }
        const row = owned(standardId, me)
        if (row.revision !== revision)
          throw new HttpProblem(409, `${row.title} was changed meanwhile.`, { current: { revision: row.revision } })
        if (row.kind !== standard.kind) throw new HttpProblem(422, `${row.title} is a ${WORDS[row.kind]} and stays one.`)
        requireNotEmptied(row, standard.body)
        return library.change(row, standard)
      }),
    ),
  )

  handle(routes.copyStandard, ({ params: { courseId, standardId }, me }) =>
    writes.write(courseId, () => {
      const row = existing(standardId)
      requireWholeInSight(row, me.id)
      const { kind, title, body } = row
      const copy = { kind, title: library.freeTitle(title), body: JSON.parse(body) as never }
      return { id: library.add(copy, me.id, { copiedFrom: standardId }) }
    }),
  )

  handle(routes.setStandardState, ({ params: { courseId, standardId }, body: { state }, me }) =>
    writes.write(courseId, () => {
      const row = owned(standardId, me)
      if (state === 'ready') requireWhole(row)
      library.setState(row.id, state)
      return undefined
    }),
  )

  handle(routes.readLibraryFile, async ({ body, me }): Promise<LibraryFile> => {
    const read = orProblem(await pool.readLibraryFile(Buffer.from(body.file, 'base64'), { personId: me.id }), 422, { field: 'file' })
    return recognised(read, library)
  })

  const send = (res: Response, { title }: StandardRow, ending: Ending, content: string | Uint8Array) =>
    sendFile(res, title, ending, content)
  handle(routes.standardCsv, ({ params, me, res }) => {
    const row = existing(params.standardId)
    requireWholeInSight(row, me.id)
    return send(res, row, 'csv', writeDelimited(tableOf(row)))
  })
  handle(routes.standardXlsx, async ({ params, me, res }) => {
    const row = existing(params.standardId)
    requireWholeInSight(row, me.id)
    const [header, ...rows] = tableOf(row)
    return send(res, row, 'xlsx', await writeWorkbook('Rubric', header!, rows))
  })
  handle(routes.standardCase, ({ params, me, res }) => {
    const row = existing(params.standardId)
    requireWholeInSight(row, me.id)
    return send(res, row, 'json', inLines(entryAsCase(row, library)))
  })
  handle(routes.standardPackage, ({ params, me, res }) => {
    const row = existing(params.standardId)
    requireWholeInSight(row, me.id)
    return send(res, row, 'zip', entryPackage(row, library))
  })

  handle(routes.outcomesCase, ({ res }) => {
    const all = library.listed().filter((row) => row.kind === 'outcome')
    if (all.length === 0) throw new HttpProblem(404, 'There is no outcome in the library yet.')
    const at = all.reduce((latest, o) => ((o.editedAt ?? '') > latest ? o.editedAt! : latest), '')
    const content = writeCase([], { uuid: uuidOf, at, outcomes: all.map(outcomeOf) })
    return sendFile(res, 'Outcomes', 'json', inLines(content))
  })

  handle(routes.rubricVersions, ({ params, me }) => {
    const row = existing(params.standardId)
    requireWholeInSight(row, me.id)
    if (row.kind !== 'rubric') throw new HttpProblem(422, `${row.title} is a ${WORDS[row.kind]}: versions are kept to compare of rubrics.`)
    return library.versions(row.id).map((v) => ({ ...v, body: JSON.parse(v.body) as RubricBody }))
  })

  handle(routes.suggest, ({ params: { courseId, standardId }, body: { words, copyId }, me }) =>
    writes.write(courseId, () => {
      const row = existing(standardId)
      if (row.ownerId === me.id) throw new HttpProblem(422, `${row.title} is your own: change it.`)
      if (copyId !== null && library.get(copyId)?.kind !== row.kind)
        throw new HttpProblem(422, 'There is no such copy.', { field: 'copyId' })
      if (library.suggestions(row.id).filter((g) => g.answer === null).length >= MOST_SUGGESTIONS)
        throw new HttpProblem(409, `${row.title} has ${MOST_SUGGESTIONS} suggestions that wait for an answer: its owner comes first.`)
      return { id: library.suggest(row.id, words, copyId, me.id) }
    }),
  )

  handle(routes.answerSuggestion, ({ params: { courseId, standardId, suggestionId }, body: { answer, reply }, me }) =>
    told(
      writes.write(courseId, () => {
        const row = owned(standardId, me)
        const suggestion = library.suggestions(row.id).find((g) => g.id === suggestionId)
        if (!suggestion) throw new HttpProblem(404, 'There is no such suggestion.')
        if (suggestion.answer) throw new HttpProblem(409, `It is ${suggestion.answer} already.`)
        const copy = answer === 'taken over' && suggestion.copyId !== null ? existing(suggestion.copyId) : null
        if (copy) requireNotEmptied(row, JSON.parse(copy.body) as object)
        library.answer(suggestion.id, answer, reply)
        if (!copy) return { id: row.id, revision: row.revision }
        return library.change(row, { kind: row.kind, title: row.title, body: JSON.parse(copy.body) as never })
      }),
    ),
  )

  handle(routes.carriedOver, ({ params: { courseId, assessmentId, standardId } }) => {
    const row = assessment.get(assessmentId, courseId)
    if (!row) throw new HttpProblem(404, 'There is no such assessment.')
    existing(standardId)
    return carriedOver(row, standardId, workingsOf(tables.load(courseId)))
  })

  handle(routes.attachStandard, ({ params: { courseId, assessmentId }, body: { version, standardId }, me }) =>
    writes.writeOpen(courseId, () => {
      const row = assessment.get(assessmentId, courseId)
      if (!row) throw new HttpProblem(404, 'There is no such assessment.')
      madeOver(version, toAssessment(row), 'Somebody changed this assessment meanwhile.')
      const standard = standardId === null ? null : existing(standardId)
      if (standard?.state === 'retired') throw new HttpProblem(409, `${standard.title} is retired: take a copy, or another one.`)
      if (standard?.kind === 'outcome') throw new HttpProblem(422, `${standard.title} is an outcome: link criteria of a rubric to it.`)
      if (standard) requireWhole(standard)
      // Attached to a course of one's own, its points and words would be in sight there.
      if (standard && standardId !== row.standard_id) requireWholeInSight(standard, me.id)
      const { n, marks } = readings.get(row.id)!
      // Another version of the same may take over: what is marked stays with its own until it is carried over.
      const sameLine = !!standard && row.standard_id !== null && existing(row.standard_id).lineId === standard.lineId
      if (n + marks > 0 && standardId !== row.standard_id && !sameLine)
        throw new HttpProblem(
          409,
          `${row.title} has ${n > 0 ? `${n} readings` : `${marks} marks`} already: what they were made with stays in use.`,
          {
            field: 'standardId',
          },
        )
      attach.run(standardId, standard ? markingBy(standard.kind) : 'direct', row.id)
      return toAssessment(assessment.get(row.id, courseId)!)
    }),
  )
}

const inLines = (content: object): string => JSON.stringify(content, null, 2)

/** An entry's body, as far as it may be seen. */
function inSight({ kind, body }: Pick<StandardRow, 'kind' | 'body'>, hides: Hides): object {
  const whole = JSON.parse(body) as never
  if (kind === 'outcome' || (!hides.hidePoints && !hides.hideWords)) return whole
  return shownOf({ kind, id: '', title: '', version: 1, body: whole }, hides).body
}

/** What is put to use must be able to give a mark. */
function requireWhole({ kind, title, body }: StandardRow): void {
  const parsed = JSON.parse(body) as { criteria?: { title: string; levels?: unknown[] }[]; labels?: never[] }
  if (kind === 'scale') {
    const finding = checkScale({ labels: parsed.labels ?? [] })[0]
    if (finding) throw new HttpProblem(422, `${title}: ${finding.message}`)
  } else {
    if (!parsed.criteria?.length) throw new HttpProblem(422, `${title} has no criterion yet.`)
    const thin = kind === 'rubric' && parsed.criteria.find((c) => (c.levels?.length ?? 0) < 2)
    if (thin) throw new HttpProblem(422, `${title}: ${thin.title} needs two levels at least.`)
  }
}
