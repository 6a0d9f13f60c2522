import type { KnownMarks, MarksTable } from '#core/exchange/marks-who'
import { now, type Db } from '../../kernel/db/open'

/** How files of marks were matched by hand, for the next one with the same heading. */
export function matchedBefore(db: Db) {
  const all = db.prepare<[string], { header: string; match: string }>(
    'SELECT header, match FROM marks_match WHERE course_id = ? ORDER BY at DESC LIMIT 20',
  )
  const put = db.prepare(
    `INSERT INTO marks_match (course_id, header, match, at) VALUES (?, ?, ?, ?)
     ON CONFLICT (course_id, header) DO UPDATE SET match = excluded.match, at = excluded.at`,
  )
  return {
    in: (courseId: string): KnownMarks[] =>
      all
        .all(courseId)
        .map(({ header, match }) => ({ header: JSON.parse(header) as string[], ...(JSON.parse(match) as Omit<KnownMarks, 'header'>) })),
    remember: (courseId: string, { header, who, marks }: MarksTable): void => {
      if (who) put.run(courseId, JSON.stringify(header), JSON.stringify({ who, marks }), now())
    },
  }
}
