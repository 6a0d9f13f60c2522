import { randomUUID } from 'node:crypto'
import type { Library, Standard, StandardState } from '#contract'
import { now, type Db } from '../../db/open'

export interface StandardRow {
  id: string
  kind: Standard['kind']
  title: string
  ownerId: string
  owner: string
  version: number
  state: StandardState
  revision: number
  read: number
  superseded: number
  body: string
  editedAt: string | null
}

type Use = Library['rubrics'][number]['uses'][number]

/** Plain SQL of the library. */
export function libraryQueries(db: Db) {
  const SELECT = `SELECT s.id, s.kind, s.title, s.owner_id AS ownerId, p.name AS owner, s.version, s.state, s.revision, s.body, s.edited_at AS editedAt,
      EXISTS (SELECT 1 FROM reading r WHERE r.standard_id = s.id) AS read,
      EXISTS (SELECT 1 FROM standard n WHERE n.follows = s.id) AS superseded
    FROM standard s JOIN person p ON p.id = s.owner_id`
  const listed = db.prepare<[], StandardRow>(
    `${SELECT} WHERE NOT superseded OR EXISTS (SELECT 1 FROM assessment a WHERE a.standard_id = s.id) ORDER BY s.title COLLATE NOCASE, s.id`,
  )
  const one = db.prepare<[string], StandardRow>(`${SELECT} WHERE s.id = ?`)
  const follower = db.prepare<[string], { id: string }>('SELECT id FROM standard WHERE follows = ?')
  // Assessments that use any version of what became the newest one.
  const uses = db.prepare<[string], Use>(
    `WITH RECURSIVE line (id) AS (SELECT ? UNION SELECT s.follows FROM standard s JOIN line ON s.id = line.id WHERE s.follows IS NOT NULL)
     SELECT c.id AS courseId, c.code || ' ' || c.term AS course, a.id AS assessmentId, a.title AS assessment, a.out_of AS outOf
     FROM assessment a JOIN course c ON c.id = a.course_id
     WHERE a.standard_id IN (SELECT id FROM line) ORDER BY c.first_day DESC, c.code, a.position`,
  )
  const titles = db.prepare<[], { title: string }>('SELECT title FROM standard')
  const insert = db.prepare(
    `INSERT INTO standard (id, kind, title, owner_id, version, follows, body, state, edited_at)
     VALUES (@id, @kind, @title, @ownerId, @version, @follows, @body, @state, @at)`,
  )
  const update = db.prepare('UPDATE standard SET title = ?, body = ?, revision = revision + 1, edited_at = ? WHERE id = ?')
  const rename = db.prepare('UPDATE standard SET title = ?, revision = revision + 1, edited_at = ? WHERE id = ?')
  const setState = db.prepare('UPDATE standard SET state = ?, revision = revision + 1, edited_at = ? WHERE id = ?')

  return {
    /** The newest version of each, and older ones that are still in use. */
    listed: () => listed.all(),
    get: (id: string) => one.get(id) ?? null,
    nextOf: (id: string) => follower.get(id)?.id ?? null,
    uses: (id: string) => uses.all(id),
    freeTitle(title: string): string {
      const taken = new Set(titles.all().map((t) => t.title.toLowerCase()))
      let free = title
      for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${title} ${n}`
      return free
    },
    add(standard: Standard, ownerId: string, follows: Pick<StandardRow, 'id' | 'version'> | null, state: StandardState = 'draft'): string {
      const id = randomUUID()
      insert.run({
        id,
        kind: standard.kind,
        title: standard.title,
        ownerId,
        version: follows ? follows.version + 1 : 1,
        follows: follows?.id ?? null,
        body: JSON.stringify(standard.body),
        state,
        at: now(),
      })
      return id
    },
    edit: (id: string, standard: Standard) => update.run(standard.title, JSON.stringify(standard.body), now(), id),
    rename: (id: string, title: string) => rename.run(title, now(), id),
    setState: (id: string, state: StandardState) => setState.run(state, now(), id),
  }
}
