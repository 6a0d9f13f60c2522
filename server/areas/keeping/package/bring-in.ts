import { randomUUID } from 'node:crypto'
import { mkdirSync, rmSync } from 'node:fs'
import Database from 'better-sqlite3'
import { FileError } from '#core/exchange/delimited'
import type { TriedPackage } from '#contract'
import { shapes, type TableShape } from './columns'
import { openPackage } from './open-package'
import { writing, writingInPieces } from '../../../kernel/db/transactions'

/** In the place of when a course was removed, as long as not all of it is here. */
const COMING = 'coming in'

interface Brought {
  /** The database of the installation. */
  file: string
  /** The data package. */
  packed: string
}

/**
 * What a data package holds, and what it would do here; changes nothing.
 * @throws FileError where it cannot be brought in
 */
export const tryPackage = ({ file, packed }: Brought): Promise<TriedPackage> =>
  withPackage(packed, file, (db, courseId) => tried(db, courseId))

/**
 * Brings a course in, in short writes, and lets nobody see it before each of its rows was found again as it was taken out. What a
 * crash left of one goes on where it stopped when the same package is brought in again.
 * @returns the course's id
 * @throws FileError where it cannot be brought in
 */
export const bringIn = ({ file, packed }: Brought): Promise<string> =>
  withPackage(packed, file, (db, courseId) => {
    tried(db, courseId)
    const all = shapes(db)
    // People, library and the course itself come first; who has which part in it comes last, and lets them see it.
    const others = all.filter((t) => t.name !== 'course_role')
    writing(db, () => {
      // A version refers to the one before it, whichever of them is written first.
      db.pragma('defer_foreign_keys = ON')
      for (const t of others.slice(0, 4)) copy(db, t, '1')
      db.prepare('UPDATE course SET removed_at = ? WHERE id = ? AND removed_at IS NULL').run(COMING, courseId)
    })
    for (const t of others.slice(4)) {
      const { last } = db.prepare<[], { last: number }>(`SELECT coalesce(max(rowid), 0) AS last FROM pkg."${t.name}"`).get()!
      let from = 0
      writingInPieces(db, (rows) => {
        copy(db, t, `t.rowid > ${from} AND t.rowid <= ${from + rows}`)
        from += rows
        return from < last
      })
    }
    for (const t of others.slice(4)) {
      const { n } = db
        .prepare<[], { n: number }>(
          `SELECT count(*) AS n FROM (SELECT ${mapped(t).join(', ')} FROM pkg."${t.name}" t ${mapJoins(t)} EXCEPT SELECT ${columns(t)} FROM main."${t.name}")`,
        )
        .get()!
      if (n > 0) throw new FileError(`${n} rows of ${t.name} are not here as they were taken out: nobody sees the course until they are.`)
    }
    writing(db, () => {
      copy(
        db,
        all.find((t) => t.name === 'course_role')!,
        '1',
      )
      db.prepare('UPDATE course SET removed_at = NULL WHERE id = ? AND removed_at = ?').run(courseId, COMING)
    })
    return courseId
  })

/** Where a package is unpacked: beside it, so that who gives up waiting can remove that too. */
export const unpackedAt = (packed: string): string => `${packed}.open`

async function withPackage<T>(packed: string, file: string, work: (db: Database.Database, courseId: string) => T): Promise<T> {
  const folder = unpackedAt(packed)
  rmSync(folder, { recursive: true, force: true })
  mkdirSync(folder, { mode: 0o700 })
  try {
    const { scratch, courseId } = await openPackage(packed, folder)
    const db = new Database(file, { fileMustExist: true })
    try {
      db.pragma('foreign_keys = ON')
      db.pragma('synchronous = FULL')
      db.prepare('ATTACH ? AS pkg').run(scratch)
      mapPeople(db)
      return work(db, courseId)
    } finally {
      db.close()
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** Who somebody of the package is here: by their sign-in; else somebody new, by their id where it is free. */
function mapPeople(db: Database.Database): void {
  db.exec('CREATE TEMP TABLE who (there TEXT PRIMARY KEY, here TEXT NOT NULL, known INTEGER NOT NULL)')
  const put = db.prepare('INSERT INTO who VALUES (?, ?, ?)')
  const known = db.prepare<[string], { id: string }>('SELECT id FROM main.person WHERE sign_in = ?')
  const taken = db.prepare<[string], { id: string }>('SELECT id FROM main.person WHERE id = ?')
  for (const p of db.prepare<[], { id: string; signIn: string }>('SELECT id, sign_in AS signIn FROM pkg.person').all()) {
    const here = known.get(p.signIn)
    put.run(p.id, here?.id ?? (taken.get(p.id) ? randomUUID() : p.id), here ? 1 : 0)
  }
  const map = new Map(
    db
      .prepare<[], { there: string; here: string }>('SELECT there, here FROM who WHERE there <> here')
      .all()
      .map((w) => [w.there, w.here]),
  )
  const walk = (value: unknown): unknown => {
    if (typeof value === 'string') return map.get(value) ?? value
    if (Array.isArray(value)) return value.map(walk)
    if (value === null || typeof value !== 'object') return value
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [map.get(k) ?? k, walk(v)]))
  }
  // Inside JSON people stand by their id too.
  db.function('people_here', { deterministic: true }, (text: unknown) =>
    typeof text !== 'string' || map.size === 0 ? text : JSON.stringify(walk(JSON.parse(text))),
  )
}

const columns = (t: TableShape): string => t.columns.map((c) => `"${c}"`).join(', ')
const whoOf = (t: TableShape): string[] =>
  t.name === 'person' ? ['id'] : t.references.filter((r) => r.table === 'person').map((r) => r.columns[0]!)
const mapJoins = (t: TableShape): string =>
  whoOf(t)
    .map((c) => `LEFT JOIN temp.who "who ${c}" ON "who ${c}".there = t."${c}"`)
    .join(' ')
/** In SQL, each column of a row of the package as it is here. */
const mapped = (t: TableShape): string[] =>
  t.columns.map((c) => (whoOf(t).includes(c) ? `"who ${c}".here` : t.namesPeople?.includes(c) ? `people_here(t."${c}")` : `t."${c}"`))

function copy(db: Database.Database, t: TableShape, which: string): void {
  const extra = t.name === 'person' ? [', passphrase_hash', ", ''"] : ['', '']
  // What is counted anew has no key of its own: it is there already where every cell of it is.
  const missing = t.counted
    ? `AND NOT EXISTS (SELECT 1 FROM main."${t.name}" m WHERE ${t.columns.map((c, i) => `m."${c}" IS ${mapped(t)[i]}`).join(' AND ')})`
    : ''
  db.prepare(
    `INSERT OR IGNORE INTO main."${t.name}" (${columns(t)}${extra[0]}) SELECT ${mapped(t).join(', ')}${extra[1]} FROM pkg."${t.name}" t ${mapJoins(t)} WHERE ${which} ${missing} ORDER BY t.rowid`,
  ).run()
}

/** @throws FileError where it cannot be brought in */
function tried(db: Database.Database, courseId: string): TriedPackage {
  const course = db
    .prepare<[string], { code: string; title: string; term: string }>('SELECT code, title, term FROM pkg.course WHERE id = ?')
    .get(courseId)!
  const here = db
    .prepare<[string], { code: string; term: string; removed: string | null }>(
      'SELECT code, term, removed_at AS removed FROM main.course WHERE id = ?',
    )
    .get(courseId)
  if (here && here.removed !== COMING)
    throw new FileError(`That course is here already${here.removed === null ? `, as ${here.code}, ${here.term}` : ', and was removed'}.`)
  const same = db
    .prepare<[string, string, string], { title: string }>('SELECT title FROM main.course WHERE code = ? AND term = ? AND id <> ?')
    .get(course.code, course.term, courseId)
  if (same)
    throw new FileError(
      `${course.code} in ${course.term} is here already, as another course (${same.title}): give that one another code or term first.`,
    )
  const differs = db
    .prepare<[], { title: string }>(
      'SELECT p.title FROM pkg.standard p JOIN main.standard m ON m.id = p.id WHERE m.kind <> p.kind OR m.version <> p.version OR m.body <> p.body',
    )
    .get()
  if (differs)
    throw new FileError(
      `“${differs.title}” is in the library here already, and is another: the course would be judged by what it was not marked by.`,
    )
  const all = shapes(db)
  if (!here)
    for (const t of all.filter((x) => !['person', 'standard', 'suggestion'].includes(x.name) && x.key.length > 0)) {
      const { n } = db
        .prepare<[], { n: number }>(
          `SELECT count(*) AS n FROM pkg."${t.name}" p JOIN main."${t.name}" m ON ${t.key.map((k) => `m."${k}" = p."${k}"`).join(' AND ')}`,
        )
        .get()!
      if (n > 0) throw new FileError(`${n} rows of ${t.name} are here already, in another course.`)
    }
  const count = (table: string) => db.prepare<[], { n: number }>(`SELECT count(*) AS n FROM pkg."${table}"`).get()!.n
  const people = db
    .prepare<[], { name: string; signIn: string; here: string | null; role: TriedPackage['people'][number]['role'] }>(
      `SELECT p.name, p.sign_in AS signIn, m.name AS here, r.role FROM pkg.person p JOIN temp.who w ON w.there = p.id
       LEFT JOIN main.person m ON m.id = w.here AND w.known = 1 LEFT JOIN pkg.course_role r ON r.person_id = p.id
       ORDER BY r.role IS NULL, CASE r.role WHEN 'lead' THEN 0 WHEN 'marker' THEN 1 WHEN 'external' THEN 2 ELSE 3 END, p.name`,
    )
    .all()
  return {
    course: `${course.code} ${course.title}, ${course.term}`,
    counts: {
      sections: count('section'),
      students: count('student'),
      assessments: count('assessment'),
      scripts: count('script'),
      readings: count('reading'),
      decisions: count('decision'),
      issues: count('issue'),
    },
    standards: {
      added: count('standard') - knownStandards(db),
      known: knownStandards(db),
    },
    people,
    goesOn: here !== undefined,
  }
}

const knownStandards = (db: Database.Database): number =>
  db.prepare<[], { n: number }>('SELECT count(*) AS n FROM pkg.standard p JOIN main.standard m ON m.id = p.id').get()!.n
