import { moveFrom, rollChanges, StayError, type RollChanges } from '#core/roll'
import type { KnownMatch, RollFile } from '#core/exchange/roll-file'
import { routes, type RollProgress, type RollUpload, type TriedRoll } from '#contract'
import type { Response } from 'express'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { WorkerPool } from '../../workers/pool'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { BroughtIn } from './brought-in'
import type { RollQueries } from './queries'
import type { Roster } from './roster'

const LISTED = 2000

/** Files of students: tried first; then all of it or nothing. Both tell what they are doing line by line, and stop when the caller goes. */
interface Needs {
  roll: RollQueries
  roster: Roster
  files: BroughtIn
  pool: WorkerPool
  writes: CourseWrites
}

export function rollFileRoutes(handle: Handle, db: Db, { roll, roster, files, pool, writes }: Needs): void {
  const known = db.prepare<[string], { header: string; columns: string }>(
    'SELECT header, columns FROM roll_match WHERE course_id = ? ORDER BY at DESC LIMIT 20',
  )
  const remember = db.prepare(
    `INSERT INTO roll_match (course_id, header, columns, at) VALUES (?, ?, ?, ?)
     ON CONFLICT (course_id, header) DO UPDATE SET columns = excluded.columns, at = excluded.at`,
  )

  handle(routes.tryRoll, ({ params, body, me, res }) =>
    streamed(res, async (tell, signal) => {
      const { tried } = await changesOf(params.courseId, body, tell, { personId: me.id, signal })
      return { tried, fileId: null }
    }),
  )

  handle(routes.bringInRoll, ({ params: { courseId }, body: { withdraw, leaveOut, name, ...upload }, me, res }) =>
    streamed(res, async (tell, signal) => {
      const { changes, tried } = await changesOf(courseId, upload, tell, { personId: me.id, signal })
      const left = new Set(leaveOut)
      const refused = changes.rows.filter((r) => r.outcome === 'refused' && !left.has(r.line)).length
      if (refused > 0)
        throw new HttpProblem(
          422,
          `${refused} rows are refused, so nothing was brought in. Try the file to see which and why, and mend them or leave them out.`,
        )
      tell('writing')
      const fileId = writes.writeOpen(courseId, () => {
        // The next file with that heading is read the same way.
        if (upload.columns) remember.run(courseId, JSON.stringify(tried.header), JSON.stringify(upload.columns), now())
        return files.add(courseId, { name, by: me.id, tried, withdrawn: withdraw.length }, changes, () => {
          for (const id of withdraw) withdrawn(courseId, id, changes, upload.from)
        })
      })
      return { tried, fileId }
    }),
  )

  handle(routes.rollFiles, ({ params }) => files.list(params.courseId))

  handle(routes.undoRollFile, ({ params: { courseId, fileId }, me }) => {
    writes.writeOpen(courseId, () => files.undo(courseId, fileId, me.id))
    return files.list(courseId)
  })

  function withdrawn(courseId: string, id: string, changes: RollChanges, from: string): void {
    const student = roll.student(courseId, id)
    if (!student || !changes.missing.includes(id))
      throw new HttpProblem(422, 'One of the students to withdraw is in the file, or not on the roll.')
    try {
      roll.setStays(id, moveFrom(student.stays, null, from))
    } catch (e) {
      if (!(e instanceof StayError)) throw e
      throw new HttpProblem(422, `${student.name}, ticked as having left: ${e.message} Nothing was brought in.`)
    }
    roll.editStudent(id, student)
  }

  async function changesOf(
    courseId: string,
    upload: RollUpload,
    tell: (doing: string) => void,
    asks: { personId: string; signal: AbortSignal },
  ) {
    tell('receiving')
    const current = roll.roll(courseId)
    const file = await pool.readRoll(
      Buffer.from(upload.file, 'base64'),
      {
        columns: upload.columns,
        headingLine: upload.headingLine,
        sheets: upload.sheets,
        encoding: upload.encoding,
        roster: { chosen: upload.classes, here: roster.here(courseId, current) },
        known: known
          .all(courseId)
          .map((k): KnownMatch => ({ header: JSON.parse(k.header) as string[], columns: JSON.parse(k.columns) as KnownMatch['columns'] })),
      },
      tell,
      asks,
    )
    if (typeof file === 'string') throw new HttpProblem(422, file)
    tell(`comparing ${file.entries.length} students with the roll`)
    const found = rollChanges({ ...current, people: roster.people(courseId, current) }, file, upload.from)
    const changes = { ...found, roster: roster.unknown(courseId, found, current) }
    return { changes, tried: toTried(changes, current, file) }
  }
}

function toTried(
  changes: RollChanges,
  current: ReturnType<RollQueries['roll']>,
  file: Pick<RollFile, 'header' | 'headingLine' | 'encoding' | 'sheets' | 'columns' | 'roster'>,
): TriedRoll {
  const counts: TriedRoll['counts'] = { added: 0, changed: 0, moved: 0, back: 0, unchanged: 0, refused: 0 }
  for (const r of changes.rows) counts[r.outcome]++
  const order = { refused: 0, moved: 1, back: 2, changed: 3, added: 4, unchanged: 5 }
  const rows = [...changes.rows].sort((a, b) => order[a.outcome] - order[b.outcome] || a.line - b.line)
  const students = new Map(current.students.map((s) => [s.id, s]))
  const sections = new Map(current.sections.map((s) => [s.id, s.name]))
  return {
    header: file.header,
    headingLine: file.headingLine,
    sheets: file.sheets,
    encoding: file.encoding,
    columns: file.columns,
    counts,
    rows: rows.slice(0, LISTED),
    unlisted: Math.max(0, rows.length - LISTED),
    sections: changes.sections.map((s) => ({ code: s.code, name: s.name, isNew: s.id === null })),
    missing: changes.missing.map((id) => {
      const { name, candidate, stays } = students.get(id)!
      return { id, name, candidate, section: sections.get(stays.at(-1)!.sectionId) ?? '' }
    }),
    notes: changes.notes,
    roster: file.roster && {
      ...file.roster,
      learnt: changes.roster.classes.length + changes.roster.teachers.length + changes.roster.names.length,
    },
  }
}

/** Answers with a line of JSON for every step and the result, or the problem, as the last. */
async function streamed(
  res: Response,
  work: (tell: (doing: string) => void, signal: AbortSignal) => Promise<Extract<RollProgress, { tried: unknown }>>,
): Promise<undefined> {
  const gone = new AbortController()
  res.on('close', () => gone.abort())
  res.type(routes.tryRoll.produces!)
  const line = (progress: RollProgress) => {
    if (gone.signal.aborted) return
    res.write(`${JSON.stringify(progress)}\n`)
    ;(res as { flush?: () => void }).flush?.()
  }
  try {
    line(await work((doing) => line({ doing }), gone.signal))
  } catch (e) {
    if (!gone.signal.aborted)
      line({ problem: e instanceof HttpProblem ? e.detail : 'The file could not be read to its end. Nothing was changed.' })
  }
  res.end()
  return undefined
}
