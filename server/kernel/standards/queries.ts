import { randomUUID } from 'node:crypto'
import type { Library, Standard, StandardState, Suggestion } from '#contract'
import { now, type Db } from '../db/open'

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
  lineId: string
  copiedFrom: string | null
  body: string
  editedAt: string | null
}

type Use = Library['rubrics'][number]['uses'][number]

/** Plain SQL of the library. */
export function libraryQueries(db: Db) {
  const SELECT = `SELECT s.id, s.kind, s.title, s.owner_id AS ownerId, p.name AS owner, s.version, s.state, s.revision, s.body, s.edited_at AS editedAt,
      s.copied_from AS copiedFrom,
      EXISTS (SELECT 1 FROM reading r WHERE r.standard_id = s.id)
        OR EXISTS (SELECT 1 FROM carried_reading c WHERE c.standard_id = s.id)
        OR EXISTS (SELECT 1 FROM exemplar x WHERE x.standard_id = s.id)
        OR EXISTS (SELECT 1 FROM by_standing b WHERE b.scale_id = s.id)
        OR s.kind = 'scale' AND EXISTS (SELECT 1 FROM assessment a JOIN script t ON t.assessment_id = a.id WHERE a.standard_id = s.id AND t.entered IS NOT NULL)
        AS read,
      (WITH RECURSIVE line (id, follows) AS (
        SELECT s.id, s.follows UNION ALL SELECT b.id, b.follows FROM standard b JOIN line ON b.id = line.follows
       ) SELECT id FROM line WHERE follows IS NULL) AS lineId,
      EXISTS (SELECT 1 FROM standard n WHERE n.follows = s.id) AS superseded
    FROM standard s JOIN person p ON p.id = s.owner_id`
  const listed = db.prepare<[], StandardRow>(
    `${SELECT} WHERE NOT superseded OR EXISTS (SELECT 1 FROM assessment a WHERE a.standard_id = s.id) ORDER BY s.title COLLATE NOCASE, s.id`,
  )
  const one = db.prepare<[string], StandardRow>(`${SELECT} WHERE s.id = ?`)
  const follower = db.prepare<[string], { id: string }>('SELECT id FROM standard WHERE follows = ?')
  // Assessments that use any version of what became the newest one.
  const uses = db.prepare<[string], Omit<Use, 'hidesPoints' | 'hidesWords'> & { hidesPoints: number | null; hidesWords: number | null }>(
    `WITH RECURSIVE line (id) AS (SELECT ? UNION SELECT s.follows FROM standard s JOIN line ON s.id = line.id WHERE s.follows IS NOT NULL)
     SELECT c.id AS courseId, c.code || ' ' || c.term AS course, a.id AS assessmentId, a.title AS assessment, a.out_of AS outOf,
       a.standard_id AS standardId, u.version, a.use ->> '$.hidePoints' AS hidesPoints, a.use ->> '$.hideWords' AS hidesWords,
       (SELECT count(*) FROM script t JOIN reading r ON r.script_id = t.id LEFT JOIN carried_in_force f ON f.reading_id = r.id AND f.version = r.version
        WHERE t.assessment_id = a.id AND r.state = 'handed in' AND coalesce(f.standard_id, r.standard_id) <> a.standard_id) AS behind
     FROM assessment a JOIN course c ON c.id = a.course_id JOIN standard u ON u.id = a.standard_id
     WHERE a.standard_id IN (SELECT id FROM line) ORDER BY c.first_day DESC, c.code, a.position`,
  )
  const sources = db.prepare<[], { id: string; kind: Standard['kind']; source: string | null }>('SELECT id, kind, source FROM standard')
  const newest = db.prepare<[string], { id: string }>(
    `WITH RECURSIVE line (id, version) AS (
       SELECT id, version FROM standard WHERE id = ? UNION SELECT s.id, s.version FROM standard s JOIN line ON s.follows = line.id
     ) SELECT id FROM line ORDER BY version DESC LIMIT 1`,
  )
  const titles = db.prepare<[], { title: string }>('SELECT title FROM standard')
  const insert = db.prepare(
    `INSERT INTO standard (id, kind, title, owner_id, version, follows, body, state, edited_at, copied_from, source)
     VALUES (@id, @kind, @title, @ownerId, @version, @follows, @body, @state, @at, @copiedFrom, @source)`,
  )
  const versions = db.prepare<[string], { id: string; version: number; editedAt: string | null; readings: number; body: string }>(
    `WITH RECURSIVE back (id, follows) AS (
       SELECT id, follows FROM standard WHERE id = ? UNION SELECT b.id, b.follows FROM standard b JOIN back ON b.id = back.follows
     ), line (id) AS (
       SELECT id FROM back UNION SELECT s.id FROM standard s JOIN line ON s.follows = line.id
     )
     SELECT s.id, s.version, s.edited_at AS editedAt, s.body, (SELECT count(*) FROM reading r WHERE r.standard_id = s.id) AS readings
     FROM standard s JOIN line ON line.id = s.id ORDER BY s.version DESC`,
  )
  const suggestions = db.prepare<[string], Suggestion>(
    `SELECT g.id, p.name AS by, g.at, g.words, g.copy_id AS copyId, g.answer, g.reply
     FROM suggestion g JOIN person p ON p.id = g.by_id WHERE g.standard_id = ? ORDER BY g.at DESC`,
  )
  const addSuggestion = db.prepare(
    'INSERT INTO suggestion (id, standard_id, copy_id, words, by_id, at) VALUES (@id, @standardId, @copyId, @words, @by, @at)',
  )
  const answerSuggestion = db.prepare('UPDATE suggestion SET answer = ?, reply = ?, answered_at = ? WHERE id = ?')
  // Suggestions go along with their entry to its next version.
  const moveSuggestions = db.prepare('UPDATE suggestion SET standard_id = ? WHERE standard_id = ?')
  const update = db.prepare('UPDATE standard SET title = ?, body = ?, revision = revision + 1, edited_at = ? WHERE id = ?')
  const rename = db.prepare('UPDATE standard SET title = ?, revision = revision + 1, edited_at = ? WHERE id = ?')
  const setState = db.prepare('UPDATE standard SET state = ?, revision = revision + 1, edited_at = ? WHERE id = ?')

  return {
    /** The newest version of each, and older ones that are still in use. */
    listed: () => listed.all(),
    get: (id: string) => one.get(id) ?? null,
    nextOf: (id: string) => follower.get(id)?.id ?? null,
    uses: (id: string): Use[] => uses.all(id).map((u) => ({ ...u, hidesPoints: !!u.hidesPoints, hidesWords: !!u.hidesWords })),
    freeTitle(title: string): string {
      const taken = new Set(titles.all().map((t) => t.title.toLowerCase()))
      let free = title
      for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${title} ${n}`
      return free
    },
    /** By which files name entries. */
    sources: () => sources.all(),
    /** The latest version of the line that an entry belongs to. */
    newestOf: (id: string) => newest.get(id)!.id,
    versions: (id: string) => versions.all(id),
    suggestions: (id: string) => suggestions.all(id),
    suggest(standardId: string, words: string, copyId: string | null, by: string): string {
      const id = randomUUID()
      addSuggestion.run({ id, standardId, copyId, words, by, at: now() })
      return id
    },
    answer: (id: string, answer: 'taken over' | 'declined', reply: string) => answerSuggestion.run(answer, reply, now(), id),
    add(
      standard: Standard,
      ownerId: string,
      {
        follows = null,
        copiedFrom = null,
        source = null,
        state = 'draft',
      }: {
        follows?: Pick<StandardRow, 'id' | 'version'> | null
        copiedFrom?: string | null
        source?: string | null
        state?: StandardState
      } = {},
    ): string {
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
        copiedFrom,
        source,
      })
      if (follows) moveSuggestions.run(id, follows.id)
      return id
    },
    /** Edits an entry; where readings use it they stay as they are, and the edit makes the next version. */
    change(row: StandardRow, standard: Standard): { id: string; revision: number } {
      const body = JSON.stringify(standard.body)
      if (row.body === body) rename.run(standard.title, now(), row.id)
      else if (row.read) return { id: this.add(standard, row.ownerId, { follows: row, copiedFrom: row.copiedFrom }), revision: 1 }
      else update.run(standard.title, body, now(), row.id)
      return { id: row.id, revision: row.revision + 1 }
    },
    setState: (id: string, state: StandardState) => setState.run(state, now(), id),
  }
}
