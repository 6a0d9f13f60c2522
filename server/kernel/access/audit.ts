import type { AuditKind, AuditRow } from '#contract'
import { now, type Db } from '../db/open'

interface Noted {
  kind: AuditKind
  /** Who did it; null where they did not get in. */
  by: string | null
  about?: string | null
  courseId?: string | null
  words: string
}

/** Entries that are read in one go. */
const TOGETHER = 1000

/** What happens to the installation, kept for whoever administers it. Of marks and works it says nothing. */
export function auditList(db: Db) {
  const insert = db.prepare('INSERT INTO audit (at, kind, by_id, about_id, course_id, words) VALUES (?, ?, ?, ?, ?, ?)')
  const list = db.prepare<[number, number], AuditRow>(
    `SELECT a.id, a.at, a.kind, b.name AS "by", o.name AS about, c.code || ', ' || c.term AS course, a.words FROM audit a
     LEFT JOIN person b ON b.id = a.by_id LEFT JOIN person o ON o.id = a.about_id LEFT JOIN course c ON c.id = a.course_id
     WHERE a.id < ? ORDER BY a.id DESC LIMIT ?`,
  )
  return {
    note({ kind, by, about = null, courseId = null, words }: Noted): void {
      insert.run(now(), kind, by, about, courseId, words.slice(0, 500))
    },
    latest: (most: number) => list.all(Number.MAX_SAFE_INTEGER, most),
    /** All of it, the latest first, some entries at a time. */
    *inParts(): Generator<AuditRow[]> {
      for (let before = Number.MAX_SAFE_INTEGER; ;) {
        const entries = list.all(before, TOGETHER)
        if (entries.length === 0) return
        yield entries
        before = entries.at(-1)!.id
      }
    },
  }
}

export type AuditList = ReturnType<typeof auditList>
