import type { ListedPerson, NewPerson, PersonState } from '#contract'
import { now, type Db } from '../db/open'

type Row = Omit<ListedPerson, 'admin' | 'roles' | 'state' | 'hasPassphrase' | 'mayLead'> & {
  admin: 0 | 1
  active: 0 | 1
  chosen: 0 | 1
  hasPassphrase: 0 | 1
  roles: string | null
  student: 0 | 1
}

export const stateOf = ({ active, chosen }: { active: 0 | 1; chosen: 0 | 1 }): PersonState =>
  active === 0 ? 'inactive' : chosen === 1 ? 'in' : 'invited'

/** In SQL, whether person `p` has come in or chosen how: by a passphrase, or by the provider. */
export const HAS_COME = `(p.passphrase_hash <> '' OR EXISTS (SELECT 1 FROM sign_on_account o WHERE o.person_id = p.id))`

/** In SQL, whether person `p` is a student somewhere, and has no other part anywhere. */
export const ONLY_A_STUDENT = `(p.admin = 0 AND EXISTS (SELECT 1 FROM course_role r WHERE r.person_id = p.id AND r.role = 'student')
   AND NOT EXISTS (SELECT 1 FROM course_role r WHERE r.person_id = p.id AND r.role <> 'student'))`

/** People of the installation, as those who administer it see them. */
export function personQueries(db: Db) {
  const SELECT = `SELECT p.id, p.name, p.sign_in AS signIn, p.email, p.admin, p.active, ${HAS_COME} AS chosen, p.passphrase_hash <> '' AS hasPassphrase, p.last_sign_in AS lastSignIn,
      (SELECT max(w.ends_at) FROM way_in w WHERE w.person_id = p.id AND w.ended IS NULL) AS linkEnds,
      (SELECT group_concat(r.role || ' of ' || c.code || ', ' || c.term, '|') FROM course_role r JOIN course c ON c.id = r.course_id
        WHERE r.person_id = p.id) AS roles, ${ONLY_A_STUDENT} AS student, p.version
    FROM person p`
  const all = db.prepare<[], Row>(`${SELECT} ORDER BY p.name, p.id`)
  const one = db.prepare<[string], Row>(`${SELECT} WHERE p.id = ?`)
  const bySignIn = db.prepare<[string], { id: string; name: string }>('SELECT id, name FROM person WHERE sign_in = ?')
  const insert = db.prepare("INSERT INTO person (id, name, sign_in, email, external_id, passphrase_hash) VALUES (?, ?, ?, ?, ?, '')")
  const update = db.prepare(
    `UPDATE person SET name = @name, sign_in = @signIn, email = @email, admin = @admin, active = @active, version = version + 1
     WHERE id = @id AND version = @version`,
  )
  const choose = db.prepare('UPDATE person SET passphrase_hash = ?, version = version + 1 WHERE id = ?')
  const admins = db.prepare<[], { n: number }>(`SELECT count(*) AS n FROM person p WHERE p.admin = 1 AND p.active = 1 AND ${HAS_COME}`)
  const untouched = db.prepare<[string], { n: number }>(
    `SELECT count(*) AS n FROM person p WHERE p.id = ? AND p.passphrase_hash = '' AND p.last_sign_in IS NULL
       AND NOT EXISTS (SELECT 1 FROM course_role r WHERE r.person_id = p.id)`,
  )
  const links = db.prepare('DELETE FROM way_in WHERE person_id = ?')
  const away = db.prepare("UPDATE person SET active = 0, sign_in = 'taken back ' || id, version = version + 1 WHERE id = ?")
  const listed = ({ active, chosen, roles, student, ...p }: Row): ListedPerson => ({
    ...p,
    admin: p.admin === 1,
    hasPassphrase: p.hasPassphrase === 1,
    state: stateOf({ active, chosen }),
    mayLead: active === 1 && student === 0,
    roles: roles?.split('|') ?? [],
    // A link that has ended by itself is none.
    linkEnds: p.linkEnds !== null && p.linkEnds > now() ? p.linkEnds : null,
  })
  return {
    all: () =>
      all
        .all()
        .filter((p) => !p.signIn.startsWith('taken back '))
        .map(listed),
    one: (id: string): ListedPerson | null => {
      const row = one.get(id)
      return row ? listed(row) : null
    },
    bySignIn: (signIn: string) => bySignIn.get(signIn) ?? null,
    insert: (id: string, p: NewPerson) => void insert.run(id, p.name, p.signIn, p.email, p.externalId),
    /** @returns whether it was still the version that is changed */
    update: (id: string, version: number, p: Pick<ListedPerson, 'name' | 'signIn' | 'email' | 'admin'> & { active: boolean }): boolean =>
      update.run({ ...p, id, version, admin: Number(p.admin), active: Number(p.active) }).changes === 1,
    choosePassphrase: (id: string, hash: string) => void choose.run(hash, id),
    /** Those who administer and can come in. */
    admins: (): number => admins.get()!.n,
    isUntouched: (id: string): boolean => untouched.get(id)!.n === 1,
    /** Who was added by mistake: their link ends, and their sign-in is free again. What was noted of them stays. */
    takeBack(id: string): void {
      links.run(id)
      away.run(id)
    },
  }
}
