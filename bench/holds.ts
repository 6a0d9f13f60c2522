import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import Database from 'better-sqlite3'
import { routes, type Route } from '#contract'
import { LARGE, makeLarge } from './large'
import { withServer } from './serve'

const COURSE = 'cfs214-2026'
/** More than this, and others notice; in ms. */
const NOTICED = 100

/**
 * How long others wait while one route after the other is asked at 12,000 × 60 × 400: every GET, for each role, twice (the second time
 * what is kept of the course is there), and some large writes. Prints those that hold others for longer than `NOTICED`, and those that
 * take over 5 s.
 */
export async function benchHolds(): Promise<void> {
  if (!existsSync(join(LARGE, 'level-table.db'))) makeLarge()
  const ids = idsOf(new Database(join(LARGE, 'level-table.db'), { readonly: true }))
  await withServer(LARGE, async ({ address, send, signIn }) => {
    console.log(`\nOthers, while one asks at ${ids.size}`)
    const probe = probing(address)
    for (const name of ['ines.valdry', 'rune.daal', 'tamsin.oyelaran.holt', 'student', 'orsolya.tamm']) {
      const cookie = await signIn(name)
      for (const [route, { method, path, produces }] of Object.entries<Route>(routes)) {
        if (method !== 'GET' || produces === 'text/event-stream') continue
        const at = path.replace(/:(\w+)/g, (_, param: string) => ids.params[param] ?? 'nobody')
        let long = false
        for (const time of ['first', 'again']) {
          if (long) break
          await probe('begin')
          const began = performance.now()
          const answer = await send('GET', at, cookie)
          const bytes = (await answer.arrayBuffer()).byteLength
          const took = performance.now() - began
          const waited = await probe('end')
          long = took > 5000
          if (answer.status < 400 && (waited > NOTICED || took > 5000))
            console.log(
              `  ${name.padEnd(22)} ${route.padEnd(20)} ${time}: others wait ${waited.toFixed(0)} ms; took ${(took / 1000).toFixed(2)} s, ${(bytes / 2 ** 20).toFixed(1)} MB`,
            )
        }
      }
    }
    for (const [words, method, path, body] of writesOf(ids)) {
      const cookie = await signIn('ines.valdry')
      await probe('begin')
      const began = performance.now()
      const answer = await send(method, `/api/courses/${COURSE}${path}`, cookie, body)
      const bytes = (await answer.arrayBuffer()).byteLength
      const took = (performance.now() - began) / 1000
      console.log(
        `  ${words.padEnd(43)} ${answer.status}: others wait ${(await probe('end')).toFixed(0)} ms; took ${took.toFixed(2)} s, ${(bytes / 2 ** 20).toFixed(1)} MB`,
      )
    }
    await probe('leave')
  })
}

/** Something of each kind that addresses name. */
function idsOf(db: Database.Database) {
  const one = (sql: string, ...at: unknown[]) =>
    db
      .prepare(sql)
      .pluck()
      .get(...at) as string | undefined
  const count = (table: string) => db.prepare(`SELECT count(*) FROM ${table}`).pluck().get() as number
  const scriptId = one('SELECT s.id FROM script s JOIN reading r ON r.script_id = s.id WHERE r.state = ? LIMIT 1', 'in')
  const params: Record<string, string | undefined> = {
    courseId: COURSE,
    scriptId,
    studentId: one('SELECT student_id FROM script WHERE id = ?', scriptId),
    assessmentId: one('SELECT assessment_id FROM script WHERE id = ?', scriptId),
    sectionId: one(
      'SELECT e.section_id FROM enrolment e JOIN script c ON c.student_id = e.student_id WHERE c.id = ? AND e.to_day IS NULL',
      scriptId,
    ),
    decisionId: one('SELECT id FROM decision WHERE course_id = ? ORDER BY rowid DESC LIMIT 1', COURSE),
    number: '1',
    standardId: one('SELECT standard_id FROM assessment WHERE course_id = ? AND standard_id IS NOT NULL LIMIT 1', COURSE),
    personId: one("SELECT person_id FROM course_role WHERE course_id = ? AND role = 'marker' LIMIT 1", COURSE),
  }
  const many = (sql: string) => db.prepare(sql).pluck().all(COURSE) as string[]
  const scripts = many(
    'SELECT s.id FROM script s JOIN reading r ON r.script_id = s.id JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = ? GROUP BY s.id HAVING count(*) > 1 LIMIT 20000',
  )
  const students = many('SELECT id FROM student WHERE course_id = ? LIMIT 300')
  const markers = many("SELECT person_id FROM course_role WHERE course_id = ? AND role = 'marker' LIMIT 20")
  const size = `${count('student')} students, ${count('script')} scripts, ${count('person')} people, ${count('audit')} audit entries`
  return { params, size, scripts, students, markers }
}

/** A large trial kept and adopted, a list of students to judge, and the outcomes of the library. */
function writesOf({ scripts, students, markers }: ReturnType<typeof idsOf>): [string, 'GET' | 'POST' | 'PUT', string, unknown?][] {
  const rule = { kind: 'value', mark: 10, reason: 'a large trial' }
  const changes = scripts.map((scriptId) => ({ kind: 'settle', scriptId, rule, step: null, mark: 10 }))
  const words = `${changes.length} scripts settled: `
  return [
    [`${words}the trial kept`, 'PUT', '/trial', { changes, version: 0 }],
    [`${words}the trial read`, 'GET', '/trial'],
    [`${words}adopted`, 'POST', '/decisions', { changes, reason: 'a large trial' }],
    ['a list to judge made', 'POST', '/line-lists', { grade: 'Merit', studentIds: students, judgeIds: markers }],
    ['lists to judge', 'GET', '/line-lists'],
    ['outcomes as CASE', 'GET', '/library-outcomes.json'],
    ['who is in the course', 'GET', '/people'],
  ]
}

/** Asks for the server's health all the time from a thread of its own; `end` gives the longest wait since `begin`. */
function probing(address: string): (said: 'begin' | 'end' | 'leave') => Promise<number> {
  const thread = new Worker(
    `const { parentPort } = require('node:worker_threads')
     let longest = 0, asked = 0, over = false, waiting = null
     parentPort.on('message', (said) => {
       if (said === 'begin') { longest = 0; parentPort.postMessage(0) }
       else { over = said === 'leave'; waiting = true }
     })
     const round = async () => {
       asked = performance.now()
       await (await fetch('${address}/api/health')).text()
       longest = Math.max(longest, performance.now() - asked)
       if (waiting) { waiting = null; parentPort.postMessage(longest) }
       if (over) parentPort.close()
       else setTimeout(round, 5)
     }
     round()`,
    { eval: true },
  )
  return (said) =>
    new Promise((answered) => {
      thread.once('message', answered)
      thread.postMessage(said)
    })
}
