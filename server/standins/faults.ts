import type { StandIn } from '#contract'
import { now, type Db } from '../kernel/db/open'
import { HttpProblem } from '../kernel/problem'

/** Which simulated services are made to fail on purpose, for one course each, and who did that. */
export function standInFaults(db: Db) {
  const latest = db.prepare<[string, string], { fails: 0 | 1 }>(
    'SELECT fails FROM stand_in_set WHERE course_id = ? AND name = ? ORDER BY id DESC LIMIT 1',
  )
  const list = db.prepare<[string], { name: StandIn; fails: 0 | 1; by: string; at: string }>(
    `SELECT s.name, s.fails, p.name AS "by", s.at FROM stand_in_set s JOIN person p ON p.id = s.by_id
     WHERE s.course_id = ? ORDER BY s.id DESC LIMIT 100`,
  )
  const insert = db.prepare('INSERT INTO stand_in_set (course_id, name, fails, by_id, at) VALUES (?, ?, ?, ?, ?)')
  const fails = (courseId: string, name: StandIn): boolean => latest.get(courseId, name)?.fails === 1
  return {
    fails,
    /** Every time somebody let one fail or work again, the latest first. */
    list: (courseId: string) => list.all(courseId).map((s) => ({ ...s, fails: s.fails === 1 })),
    set(courseId: string, name: StandIn, on: boolean, by: string): void {
      if (fails(courseId, name) !== on) insert.run(courseId, name, Number(on), by, now())
    },
    /** @throws HttpProblem where the service is made to fail */
    reach(courseId: string, name: StandIn): void {
      if (fails(courseId, name)) throw new HttpProblem(503, `The ${name} cannot be reached. Nothing was changed; try again later.`)
    },
  }
}
export type StandInFaults = ReturnType<typeof standInFaults>
