import { ProviderMode, SignOn } from '#contract'
import type { Db } from '../db/open'

const NAMELESS_AFTER = 365
const FIRST: SignOn = { passphrases: true, provider: null }

/** What whoever administers can set, as it is kept. */
export function installationSettings(db: Db) {
  const get = db.prepare<[string], { value: string }>('SELECT value FROM setting WHERE key = ?')
  const put = db.prepare('INSERT INTO setting (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value')
  const read = (key: string) => get.get(key)?.value
  return {
    department: () => read('department') ?? '',
    setDepartment: (name: string) => void put.run('department', name),
    signOn: (): SignOn => {
      const kept = read('sign-on')
      return kept === undefined ? FIRST : SignOn.parse(JSON.parse(kept))
    },
    setSignOn: (signOn: SignOn) => void put.run('sign-on', JSON.stringify(signOn)),
    /** In days. */
    namelessAfter: () => Number(read('nameless after') ?? NAMELESS_AFTER),
    setNamelessAfter: (days: number) => void put.run('nameless after', String(days)),
    /** Counts what was set, so that two who set at once notice it. */
    version: () => Number(read('settings version') ?? 1),
    raiseVersion: () => void put.run('settings version', String(Number(read('settings version') ?? 1) + 1)),
    /** What the stand-in provider does. */
    mode: (): ProviderMode => ProviderMode.catch('works').parse(read('stand-in sign-on')),
    setMode: (mode: ProviderMode) => void put.run('stand-in sign-on', mode),
  }
}

export type InstallationSettings = ReturnType<typeof installationSettings>
