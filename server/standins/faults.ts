import type { StandIn } from '#contract'
import type { Db } from '../db/open'
import { HttpProblem } from '../problem'

/** Which simulated services are made to fail on purpose. */
export function standInFaults(db: Db) {
  const all = db.prepare<[], { name: StandIn }>('SELECT name FROM stand_in_fault')
  const set = db.prepare('INSERT INTO stand_in_fault (name) VALUES (?) ON CONFLICT DO NOTHING')
  const clear = db.prepare('DELETE FROM stand_in_fault WHERE name = ?')
  const fails = (name: StandIn) => all.all().some((f) => f.name === name)
  return {
    fails,
    set: (name: StandIn, on: boolean) => void (on ? set : clear).run(name),
    /** @throws HttpProblem where the service is made to fail */
    reach(name: StandIn): void {
      if (fails(name)) throw new HttpProblem(503, `The ${name} cannot be reached. Nothing was changed; try again later.`)
    },
  }
}
export type StandInFaults = ReturnType<typeof standInFaults>
