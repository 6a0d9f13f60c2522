import { criterionMaximum } from '#core/scales'
import type { Remarks, StandardInUse } from '#contract'
import type { Db } from '../../kernel/db/open'
import { libraryQueries } from '../../kernel/standards/queries'
import { standardsOf } from '../../kernel/standards/judge'

interface Row {
  /** Of the version it was made by, and of that it was carried over to. */
  madeBy: string | null
  standardId: string | null
  picks: string
  mark: number
  comment: string
  criterionComments: string
}

/**
 * What was remarked on a script for its student, one entry for what stands beside a typed mark and for each reading handed in. Notes for markers and who marked are
 * not in it. Points stand beside the words only where one reading gives the plain mark: of several none is the student’s.
 */
export function remarksFor(db: Db): (scriptId: string, plain: number | null) => Remarks[] {
  const standardOf = standardsOf(libraryQueries(db))
  const readings = db.prepare<[string], Row>(
    `SELECT r.standard_id AS madeBy, coalesce(f.standard_id, r.standard_id) AS standardId, coalesce(f.picks, r.picks) AS picks, coalesce(f.mark, r.mark) AS mark, r.comment,
       r.criterion_comments AS criterionComments
     FROM reading r LEFT JOIN carried_in_force f ON f.reading_id = r.id AND f.version = r.version
     WHERE r.script_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`,
  )
  const typed = db.prepare<[string], string>('SELECT remark FROM script WHERE id = ?').pluck()
  return (scriptId, plain) => {
    const beside = typed.get(scriptId) ?? ''
    const rows = readings.all(scriptId)
    const oneReading = rows.length === 1 && plain !== null && Math.abs(rows[0]!.mark - plain) < 1e-9
    const read = rows.flatMap(({ comment, ...row }): Remarks[] => {
      const picks = JSON.parse(row.picks) as Record<string, number>
      const words = JSON.parse(row.criterionComments) as Record<string, string>
      const criteria = criteriaOf(standardOf(row.standardId))
      // A comment stays with the student although a later version has no such criterion.
      const gone = row.madeBy === row.standardId ? [] : criteriaOf(standardOf(row.madeBy))
      const titles = new Map([...gone, ...criteria].map((c) => [c.id, c.title]))
      const parts = criteria.flatMap(({ id, title, of, takenOff }) => {
        const given = oneReading ? picks[id] : undefined
        const said = words[id]?.trim() ?? ''
        return said === '' && given === undefined
          ? []
          : [{ title, words: said, points: given === undefined ? null : { given, of, takenOff } }]
      })
      const listed = new Set(criteria.map((c) => c.id))
      for (const [id, said] of Object.entries(words))
        if (!listed.has(id) && said.trim() !== '') parts.push({ title: titles.get(id) ?? id, words: said.trim(), points: null })
      return comment.trim() === '' && parts.length === 0 ? [] : [{ comment: comment.trim(), parts }]
    })
    return beside === '' ? read : [{ comment: beside, parts: [] }, ...read]
  }
}

function criteriaOf(standard: StandardInUse | null): { id: string; title: string; of: number; takenOff: boolean }[] {
  if (standard?.kind === 'scheme') return standard.body.criteria.map(({ id, title, max }) => ({ id, title, of: max, takenOff: false }))
  if (standard?.kind !== 'rubric') return []
  return standard.body.criteria.map((c) => ({
    id: c.id,
    title: c.title,
    of: criterionMaximum(c),
    takenOff: c.penalty,
  }))
}
