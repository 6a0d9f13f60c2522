import type { Db } from '../kernel/db/open'

/** A stand-in for an institution's sign-on: it names the demo's people, and only where the data is the demo's. */
export function signOnDirectory(db: Db) {
  const demo = db.prepare<[], { value: string }>("SELECT value FROM setting WHERE key = 'demo passphrase'")
  const people = db.prepare<[], { signIn: string; name: string; does: string }>(
    "SELECT sign_in AS signIn, name, does FROM person WHERE active = 1 AND does <> '' ORDER BY rowid",
  )
  return () => {
    const passphrase = demo.get()?.value ?? null
    return { people: passphrase === null ? [] : people.all(), passphrase }
  }
}
