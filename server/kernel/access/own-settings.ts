import { OwnSettings, USUAL_SETTINGS } from '#contract'
import type { Db } from '../db/open'

/** How people write, and which keys they press. */
export function ownSettings(db: Db) {
  const read = db.prepare<[string], string>('SELECT body FROM own_settings WHERE person_id = ?').pluck()
  const keep = db.prepare('INSERT INTO own_settings VALUES (?, ?) ON CONFLICT (person_id) DO UPDATE SET body = excluded.body')
  return {
    of: (personId: string): OwnSettings => {
      const body = read.get(personId)
      return body === undefined ? USUAL_SETTINGS : OwnSettings.catch(USUAL_SETTINGS).parse(JSON.parse(body))
    },
    keep: (personId: string, settings: OwnSettings) => void keep.run(personId, JSON.stringify(settings)),
  }
}
