import type { Change, Idea, IdeaStop } from '#contract'
import { now, type Db } from '../../kernel/db/open'

type Row = Omit<Idea, 'changes'> & { changes: string }

/** Plain SQL of ideas. */
export function ideaQueries(db: Db) {
  const SELECT = `SELECT i.id, i.stop, i.name, i.changes, p.name AS "by", i.at FROM idea i JOIN person p ON p.id = i.by_id WHERE i.course_id = ?`
  const all = db.prepare<[string], Row>(`${SELECT} ORDER BY i.at, i.rowid`)
  const one = db.prepare<[string, string], Row>(`${SELECT} AND i.id = ?`)
  const count = db.prepare<[string, string], number>('SELECT count(*) FROM idea WHERE course_id = ? AND stop = ?').pluck()
  const named = db.prepare<[string, string, string]>('SELECT 1 FROM idea WHERE course_id = ? AND stop = ? AND name = ?')
  const insert = db.prepare('INSERT INTO idea (id, course_id, stop, name, changes, by_id, at) VALUES (?, ?, ?, ?, ?, ?, ?)')
  const rename = db.prepare('UPDATE idea SET name = ? WHERE id = ?')
  const drop = db.prepare('DELETE FROM idea WHERE course_id = ? AND id = ?')
  return {
    all: (courseId: string): Idea[] => all.all(courseId).map(toIdea),
    one(courseId: string, id: string): Idea | null {
      const row = one.get(courseId, id)
      return row ? toIdea(row) : null
    },
    count: (courseId: string, stop: IdeaStop): number => count.get(courseId, stop)!,
    isNamed: (courseId: string, stop: IdeaStop, name: string): boolean => named.get(courseId, stop, name) !== undefined,
    keep: (idea: Pick<Idea, 'id' | 'stop' | 'name' | 'changes'> & { courseId: string; byId: string }): void =>
      void insert.run(idea.id, idea.courseId, idea.stop, idea.name, JSON.stringify(idea.changes), idea.byId, now()),
    rename: (id: string, name: string): void => void rename.run(name, id),
    drop: (courseId: string, id: string): boolean => drop.run(courseId, id).changes > 0,
  }
}

const toIdea = (row: Row): Idea => ({ ...row, changes: JSON.parse(row.changes) as Change[] })
