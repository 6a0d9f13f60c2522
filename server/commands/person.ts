import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { NewPerson } from '#contract'
import { auditList } from '../kernel/access/audit'
import { waysIn } from '../kernel/access/ways-in'
import { personQueries } from '../kernel/access/people'
import { openDatabase } from '../kernel/db/open'
import { settingsOrEnd } from './settings-or-end'
import { writing } from '../kernel/db/transactions'

// npm run person -- --sign-in X --name "…" [--email …] [--admin]: adds a person and prints their one-time link.
process.umask(0o077)

const USAGE = 'npm run person -- --sign-in maren --name "Maren Osterlund" [--email maren@example.org] [--admin]'

function end(words: string): never {
  console.error(words)
  process.exit(1)
}

function asked() {
  try {
    const { values } = parseArgs({
      options: {
        admin: { type: 'boolean', default: false },
        'sign-in': { type: 'string', default: '' },
        name: { type: 'string', default: '' },
        email: { type: 'string' },
      },
    })
    const read = NewPerson.safeParse({ name: values.name, signIn: values['sign-in'], email: values.email ?? null })
    if (!read.success) end(`${read.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join(' ')}\n${USAGE}`)
    return { person: read.data, admin: values.admin }
  } catch (e) {
    return end(`${e instanceof Error ? e.message : String(e)}\n${USAGE}`)
  }
}

const { person, admin } = asked()
const { data, origin, host, port } = settingsOrEnd()
const file = join(data, 'level-table.db')
if (!existsSync(file)) console.error(`There is no data in ${data} yet: it is made now.`)
const db = openDatabase(file)
const people = personQueries(db)
const known = people.bySignIn(person.signIn)
if (known) {
  db.close()
  end(`${person.signIn} is the sign-in of ${known.name} already. A new link for them is made on the page of people.`)
}
const { token } = writing(db, () => {
  const id = randomUUID()
  people.insert(id, person)
  if (admin) db.prepare('UPDATE person SET admin = 1 WHERE id = ?').run(id)
  const audit = auditList(db)
  audit.note({ kind: 'person added', by: null, about: id, words: `${person.signIn}, by command${admin ? '; administers' : ''}` })
  audit.note({ kind: 'link made', by: null, about: id, words: 'invitation, by command' })
  return waysIn(db).make(id, 'invitation', null)
})
db.close()
console.log(`${origin ?? `http://${host}:${port}`}/come-in#${token}`)
