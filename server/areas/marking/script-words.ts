import type { AgreeRule } from '#core/agree'
import type { ScriptWord } from '#contract'
import type { Db } from '../../kernel/db/open'

interface Row {
  mark: number | null
  rule: string | null
  by: string
  at: string
  reason: string
  over: string
  inForce: 0 | 1
  holds: 0 | 1
}

/** What was agreed on scripts, by whom, when and why, and on which readings. */
export function scriptWords(db: Db): (scriptId: string) => ScriptWord[] {
  const words = db.prepare<[string], Row>(
    `SELECT g.mark, g.rule, p.name AS "by", d.made_at AS at, d.reason, g.over, g.in_force AS inForce, g.holds
     FROM agreed_mark g JOIN decision d ON d.id = g.decision_id JOIN person p ON p.id = d.made_by
     WHERE g.script_id = ? AND d.withdrawn_at IS NULL ORDER BY d.seq DESC`,
  )
  const name = db.prepare<[string], { name: string }>('SELECT name FROM person WHERE id = ?')
  return (scriptId) =>
    words.all(scriptId).map(({ rule, over, inForce, holds, ...row }) => ({
      ...row,
      rule: rule === null ? null : (JSON.parse(rule) as AgreeRule),
      readings: (JSON.parse(over) as [string, number, number][]).map(([markerId, , mark]) => ({
        marker: name.get(markerId)?.name ?? markerId,
        mark,
      })),
      inForce: !!inForce,
      holds: !!holds,
    }))
}
