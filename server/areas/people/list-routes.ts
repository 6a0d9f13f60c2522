import { randomUUID } from 'node:crypto'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { writeDelimited } from '#core/exchange/write-delimited'
import { routes, type TriedPeople } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import type { Sessions } from '../../kernel/access/sessions'
import type { WaysIn } from '../../kernel/access/ways-in'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { sendText } from '../../kernel/json-in-pieces'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import type { WorkerPool } from '../../workers/pool'
import type { Inviter } from '../../kernel/access/invite'
import { personQueries } from '../../kernel/access/people'
import { writing } from '../../kernel/db/transactions'

/** Everybody of the installation, for whoever administers it. */
export function personRoutes(
  handle: Handle,
  db: Db,
  signIns: Sessions,
  { audit, ways, invite, pool }: { audit: AuditList; ways: WaysIn; invite: Inviter; pool: WorkerPool },
): void {
  const people = personQueries(db)
  handle(routes.people, () => people.all())

  const one = (id: string) => {
    const found = people.one(id)
    if (!found) throw new HttpProblem(404, 'There is no such person here.')
    return found
  }

  handle(routes.tryPeople, async ({ body: { text }, me }): Promise<TriedPeople> => {
    const lines = orProblem(await pool.readPeople(text, { personId: me.id }), 422, { field: 'text' })
    const tried: TriedPeople = { rows: [], people: [] }
    const seen = new Map<string, number>()
    for (const l of lines) {
      if ('why' in l) {
        tried.rows.push({ line: l.line, name: '', signIn: '', email: null, does: 'refused', why: l.why })
        continue
      }
      const { name, signIn, email } = l.person
      const [known, twice] = [people.bySignIn(signIn), seen.get(signIn.toLowerCase())]
      const row = { line: l.line, name, signIn, email }
      if (twice !== undefined) tried.rows.push({ ...row, does: 'refused', why: `The sign-in stands in line ${twice} already.` })
      else if (known) tried.rows.push({ ...row, does: 'known', why: known.name === name ? null : `Here as ${known.name}; left as it is.` })
      else {
        tried.rows.push({ ...row, does: 'added', why: null })
        tried.people.push(l.person)
      }
      seen.set(signIn.toLowerCase(), twice ?? l.line)
    }
    return tried
  })

  handle(routes.addPeople, async ({ body, me }) => {
    const invited = writing(db, () =>
      body.people.map((p, i) => {
        const known = people.bySignIn(p.signIn)
        if (known)
          throw new HttpProblem(422, `${p.signIn} is the sign-in of ${known.name} already: nobody was added. Give another one.`, {
            field: body.people.length === 1 ? 'signIn' : `people.${i}`,
          })
        const id = randomUUID()
        people.insert(id, p)
        audit.note({ kind: 'person added', by: me.id, about: id, words: p.signIn })
        return invite.make(id, me)
      }),
    )
    return invite.send(invited)
  })

  handle(routes.removePeople, ({ body: { personIds }, me }) => {
    writing(db, () => {
      for (const id of personIds) {
        const { name } = one(id)
        if (!people.isUntouched(id))
          throw new HttpProblem(409, `${name} has come in, or has a part in a course: nobody was taken back. Deactivate them instead.`)
        audit.note({ kind: 'person changed', by: me.id, about: id, words: 'taken back' })
        people.takeBack(id)
      }
    })
    return undefined
  })

  handle(routes.editPerson, ({ params: { personId }, body: { version, ...change }, me }) => {
    const before = one(personId)
    const after = { ...before, active: before.state !== 'inactive', ...change }
    const namesake = people.bySignIn(after.signIn)
    if (namesake && namesake.id !== personId)
      throw new HttpProblem(422, `${after.signIn} is the sign-in of ${namesake.name}.`, { field: 'signIn' })
    writing(db, () => {
      if (!people.update(personId, version, after))
        throw new HttpProblem(409, `${before.name} was changed meanwhile: here they are as they are now.`, { current: before })
      if (people.admins() === 0) throw new HttpProblem(409, 'Somebody has to administer the installation: let another person do so first.')
      audit.note({ kind: 'person changed', by: me.id, about: personId, words: wordsOf(change) })
    })
    if (change.active === false) {
      signIns.end(personId, { butFor: undefined })
      ways.end(personId)
    }
    return one(personId)
  })

  handle(routes.makeWayIn, async ({ params: { personId }, me }) => {
    const person = one(personId)
    if (person.state === 'inactive') throw new HttpProblem(409, `${person.name} is not active: bring them back first.`)
    const invited = writing(db, () => invite.make(personId, me))
    if (person.state === 'in' && personId !== me.id) signIns.end(personId, { butFor: undefined })
    return (await invite.send([invited]))[0]!
  })

  handle(routes.audit, () => audit.latest(2000))
  handle(routes.auditCsv, ({ res }) => {
    res.attachment('audit.csv').type(MEDIA_TYPES.csv)
    return sendText(res, auditLines(audit))
  })
}

/** The audit list as CSV, some entries at a time. */
function* auditLines(audit: AuditList): Generator<string> {
  yield writeDelimited([['at', 'kind', 'by', 'about', 'course', 'words']])
  for (const entries of audit.inParts())
    yield writeDelimited(
      entries.map((r) => [r.at, r.kind, r.by ?? '', r.about ?? '', r.course ?? '', r.words]),
      { bom: false },
    )
}

function wordsOf(change: { active?: boolean; admin?: boolean }): string {
  const words = Object.keys(change).filter((k) => k !== 'active' && k !== 'admin')
  if (change.active !== undefined) words.push(change.active ? 'brought back' : 'deactivated')
  if (change.admin !== undefined) words.push(change.admin ? 'administers' : 'no longer administers')
  return words.join(', ')
}
