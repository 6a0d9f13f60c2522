import type { Picks } from '#core/scales'
import type { Db } from '../../kernel/db/open'

interface Row {
  standardId: string | null
  picks: string
  judgement: string | null
  mark: number
}

/** The levels that stand on a script, and by which standard they were judged. */
export interface Levels {
  standardId: string | null
  picks: Picks
  judgement: string | null
  /** Agreed on by its readers, criterion by criterion. */
  agreed: boolean
}

/**
 * The levels that stand on a script: what was agreed on criterion by criterion, else those of the one reading that gives the plain mark. Of
 * several readings none is the student’s.
 */
export function levelsFor(db: Db): (scriptId: string, plain: number | null, standardId: string | null) => Levels | null {
  const agreed = db
    .prepare<[string], string>(
      `SELECT rule -> '$.picks' FROM agreed_mark WHERE script_id = ? AND in_force = 1 AND rule ->> '$.kind' = 'criteria'`,
    )
    .pluck()
  const readings = db.prepare<[string], Row>(
    `SELECT coalesce(f.standard_id, r.standard_id) AS standardId, coalesce(f.picks, r.picks) AS picks, coalesce(f.judgement, r.judgement) AS judgement,
       coalesce(f.mark, r.mark) AS mark
     FROM reading r LEFT JOIN carried_in_force f ON f.reading_id = r.id AND f.version = r.version
     WHERE r.script_id = ? AND r.state = 'handed in'`,
  )
  return (scriptId, plain, standardId) => {
    const together = agreed.get(scriptId)
    if (together) return { standardId, picks: JSON.parse(together) as Picks, judgement: null, agreed: true }
    const [row, ...more] = readings.all(scriptId)
    if (!row || more.length > 0 || plain === null || Math.abs(row.mark - plain) >= 1e-9) return null
    return { standardId: row.standardId, picks: JSON.parse(row.picks) as Picks, judgement: row.judgement, agreed: false }
  }
}
