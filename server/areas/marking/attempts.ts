import { decodeUnicode } from '#core/exchange/decode-text'
import type { DeskScript, ReadingBody } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import { bodyColumns, type OwnReadingRow } from './desk-queries'

export type NextReadingRow = Pick<OwnReadingRow, 'version' | 'mark' | 'picks' | 'judgement' | 'comment' | 'criterionComments' | 'notes'>

/** Plain SQL of a script's attempts, and of readings of a new one that are not handed in yet. */
export function attemptQueries(db: Db) {
  const script = db.prepare<[string], { text: string | null; cameAt: string | null }>(
    'SELECT text, came_at AS cameAt FROM script WHERE id = ?',
  )
  const delivered = db.prepare<[string], { number: number; cameAt: string; kind: 'text' | 'pdf'; content: Buffer | null }>(
    `SELECT attempt AS number, came_at AS cameAt, kind, CASE WHEN kind = 'text' THEN content END AS content FROM delivery
     WHERE script_id = ? ORDER BY attempt`,
  )
  const latest = db.prepare<[string], { n: number }>('SELECT coalesce(max(attempt), 1) AS n FROM delivery WHERE script_id = ?')
  const file = db.prepare<[string, number], { content: Buffer }>(
    "SELECT content FROM delivery WHERE script_id = ? AND attempt = ? AND kind = 'pdf'",
  )
  const next = db.prepare<[string], NextReadingRow>(
    `SELECT version, mark, picks, judgement, comment, criterion_comments AS criterionComments, notes FROM next_reading WHERE reading_id = ?`,
  )
  const keep = db.prepare(
    `INSERT INTO next_reading (reading_id, version, mark, picks, judgement, comment, criterion_comments, notes, edited_at)
     VALUES (@id, 1, @mark, @picks, @judgement, @comment, @criterionComments, @notes, @at)
     ON CONFLICT (reading_id) DO UPDATE SET version = version + 1, mark = @mark, picks = @picks, judgement = @judgement, comment = @comment,
       criterion_comments = @criterionComments, notes = @notes, edited_at = @at`,
  )
  const drop = db.prepare('DELETE FROM next_reading WHERE reading_id = ?')
  return {
    /** Every attempt at a script, the latest last; its text where that is what it is. */
    all(scriptId: string): DeskScript['attempts'] {
      const first = script.get(scriptId)
      const files = delivered.all(scriptId).map(({ content, ...d }) => ({ ...d, text: content && decodeUnicode(content) }))
      if (!first || first.text === null) return files
      return [{ number: 1, cameAt: files.length > 0 ? null : first.cameAt, kind: 'text', text: first.text }, ...files]
    },
    latest: (scriptId: string) => latest.get(scriptId)!.n,
    file: (scriptId: string, attempt: number) => file.get(scriptId, attempt)?.content ?? null,
    next: (readingId: string) => next.get(readingId) ?? null,
    keepNext: (readingId: string, body: ReadingBody, mark: number | null) =>
      void keep.run({
        id: readingId,
        mark,
        ...bodyColumns(body),
        at: now(),
      }),
    dropNext: (readingId: string) => void drop.run(readingId),
  }
}
