import { randomUUID } from 'node:crypto'
import type { RollChanges } from '#core/roll'
import type { RollFileKept, RollSection, RollStudent, TriedRoll } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import { HttpProblem } from '../../kernel/problem'
import { applyRollChanges } from './apply-changes'
import type { RollQueries } from './queries'
import type { Roster } from './roster'

interface Row {
  id: string
  name: string
  summary: string
  by: string
  at: string
  undoneBy: string | null
  undoneAt: string | null
}

/** What a file touched: as it was before (null where the file made it), and the version that the file left it with. */
interface Touched<T> {
  id: string
  before: T | null
  version: number
}
interface Before {
  sections: Touched<RollSection>[]
  students: Touched<RollStudent>[]
}

const NAMED = 3

/** Rolls that were brought in from files, each with the way back. Writes go on inside the caller's transaction. */
export function broughtIn(db: Db, roll: RollQueries, roster: Roster) {
  const list = db.prepare<[string], Row>(
    `SELECT f.id, f.name, f.summary, p.name AS by, f.at, u.name AS undoneBy, f.undone_at AS undoneAt FROM roll_file f
     JOIN person p ON p.id = f.by_id LEFT JOIN person u ON u.id = f.undone_by WHERE f.course_id = ? ORDER BY f.at DESC, f.rowid DESC`,
  )
  const one = db.prepare<[string, string], { before: string; undone_at: string | null }>(
    'SELECT before, undone_at FROM roll_file WHERE id = ? AND course_id = ?',
  )
  const insert = db.prepare('INSERT INTO roll_file (id, course_id, name, summary, before, by_id, at) VALUES (?, ?, ?, ?, ?, ?, ?)')
  const undone = db.prepare('UPDATE roll_file SET undone_by = ?, undone_at = ? WHERE id = ?')

  const touched = <T extends { id: string; version: number }>(before: readonly T[], after: readonly T[]): Touched<T>[] => {
    const was = new Map(before.map((x) => [x.id, x]))
    return after.flatMap((x) => {
      const old = was.get(x.id) ?? null
      return old?.version === x.version ? [] : [{ id: x.id, before: old, version: x.version }]
    })
  }

  return {
    list: (courseId: string): RollFileKept[] =>
      list.all(courseId).map(({ undoneBy, undoneAt, ...f }) => ({
        ...f,
        undone: undoneBy !== null && undoneAt !== null ? { by: undoneBy, at: undoneAt } : null,
      })),

    /**
     * Does what a tried file would do, and keeps how it was.
     * @param more what else is done with the file, before its traces are taken
     * @returns the id under which it can be undone
     */
    add(courseId: string, file: { name: string; by: string; tried: TriedRoll; withdrawn: number }, changes: RollChanges, more: () => void) {
      const before = roll.roll(courseId)
      const sectionIds = applyRollChanges(roll, courseId, changes)
      more()
      const after = roll.roll(courseId)
      const kept: Before = {
        sections: touched(before.sections, after.sections),
        students: touched(before.students, after.students),
      }
      const id = randomUUID()
      insert.run(id, courseId, file.name, summaryOf(file.tried, file.withdrawn), JSON.stringify(kept), file.by, now())
      roster.learn(courseId, id, sectionIds, changes.roster)
      return id
    },

    /** Puts back everything that a file touched, all of it or nothing. */
    undo(courseId: string, id: string, by: string): void {
      const file = one.get(id, courseId)
      if (!file) throw new HttpProblem(404, 'No such file was brought in.')
      if (file.undone_at !== null) throw new HttpProblem(409, 'It has been undone already.')
      const { sections, students } = JSON.parse(file.before) as Before
      const current = roll.roll(courseId)
      const here = new Map<string, { name: string; version: number }>([...current.sections, ...current.students].map((x) => [x.id, x]))
      const since = [...sections, ...students].filter((t) => here.get(t.id)?.version !== t.version)
      if (since.length > 0) {
        const names = since.slice(0, NAMED).map((t) => here.get(t.id)?.name ?? t.before?.name ?? 'one who was removed')
        const more = since.length > NAMED ? ` and ${since.length - NAMED} more` : ''
        throw new HttpProblem(409, `Changed since the file came in: ${names.join(', ')}${more}. Nothing was undone; change back by hand.`)
      }
      for (const { id: studentId, before } of students) {
        if (before) {
          roll.setStays(studentId, before.stays)
          roll.editStudent(studentId, before)
          continue
        }
        if (roll.scriptsOf(studentId) > 0)
          throw new HttpProblem(
            409,
            `${here.get(studentId)!.name} has work in this course by now: withdraw them instead. Nothing was undone.`,
          )
        roll.removeStudent(studentId)
      }
      for (const { id: sectionId, before } of sections) {
        if (before) roll.editSection(sectionId, before)
        else if (roll.everIn(sectionId) > 0)
          throw new HttpProblem(409, `Others are in ${here.get(sectionId)!.name} by now. Nothing was undone.`)
        else roll.removeSection(sectionId)
      }
      roster.forget(id)
      undone.run(by, now(), id)
    },
  }
}

function summaryOf({ counts: n, sections, roster }: TriedRoll, withdrawn: number): string {
  const parts: [number, string][] = [
    [n.added, 'added'],
    [n.moved, 'moved'],
    [n.changed, 'changed'],
    [n.back, 'back'],
    [withdrawn, 'withdrawn'],
    [sections.length, sections.length === 1 ? 'section new or changed' : 'sections new or changed'],
  ]
  const said = parts.flatMap(([count, words]) => (count > 0 ? [`${count} ${words}`] : [])).join(', ')
  return said || (roster?.learnt ? 'ids and parts of names' : 'nothing changed')
}

export type BroughtIn = ReturnType<typeof broughtIn>
