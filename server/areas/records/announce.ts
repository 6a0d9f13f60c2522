import { group } from 'd3-array'
import type { IssuedFigures } from '#core/issues'
import type { IssueHead } from '#contract'
import type { Clock } from '../../kernel/clock'
import { issuesOf } from '../../kernel/course/issues'
import { now, type Db } from '../../kernel/db/open'
import { writing } from '../../kernel/db/transactions'
import { orProblem } from '../../kernel/or-problem'
import { letterSender, type Sender, type Written } from '../../kernel/letters'
import type { Post } from '../../standins/post'
import type { WorkerPool } from '../../workers/pool'

const LIST = new Intl.ListFormat('en')

/** Letters to students: that their results are out, and what a later issue changes for whom it touches. */
export function announcing(db: Db, post: Post, pool: WorkerPool, clock: Clock) {
  const issues = issuesOf(db)
  const send = letterSender(db, post)
  const signers = db.prepare<[string, number, string], { personId: string; name: string; signIn: string; email: string | null }>(
    `SELECT DISTINCT p.id AS personId, p.name, p.sign_in AS signIn, p.email FROM signature s JOIN person p ON p.id = s.person_id
     WHERE s.course_id = ? AND s.number = ? AND p.id <> ?`,
  )
  const course = db.prepare<[string], { code: string; title: string }>('SELECT code, title FROM course WHERE id = ?')
  const reached = db.prepare<
    [string],
    { studentId: string; sectionId: string; personId: string; name: string; signIn: string; email: string | null; onDay: string | null }
  >(
    `SELECT s.id AS studentId, e.section_id AS sectionId, p.id AS personId, p.name, p.sign_in AS signIn, p.email, r.on_day AS onDay
     FROM student s JOIN person p ON p.id = s.person_id JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
     LEFT JOIN result_release r ON r.course_id = s.course_id AND r.section_id = e.section_id WHERE s.course_id = ?`,
  )

  const untold = db.prepare<[string], { courseId: string; sectionId: string; onDay: string; by: string; byName: string; since: string }>(
    `SELECT r.course_id AS courseId, r.section_id AS sectionId, r.on_day AS onDay, r.by_id AS "by", p.name AS byName, r.at AS since
     FROM result_release r JOIN person p ON p.id = r.by_id WHERE r.told_at IS NULL AND r.on_day <= ?`,
  )
  const told = db.prepare('UPDATE result_release SET told_at = ? WHERE course_id = ? AND section_id = ? AND on_day = ?')
  const lettersSince = db
    .prepare<[string, string, string], string>('SELECT to_id FROM letter WHERE course_id = ? AND subject = ? AND at >= ?')
    .pluck()
  // What is looked into waits, whatever is let out.
  const withMark = db.prepare<
    [{ course: string; assessmentId: string; sectionId: string }],
    { personId: string; name: string; signIn: string; email: string | null; assessment: string }
  >(
    `SELECT p.id AS personId, p.name, p.sign_in AS signIn, p.email, a.title AS assessment
     FROM script x JOIN student s ON s.id = x.student_id JOIN person p ON p.id = s.person_id JOIN assessment a ON a.id = x.assessment_id
     JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
     WHERE s.course_id = @course AND x.assessment_id = @assessmentId AND e.section_id = @sectionId AND x.status <> 'held'
       AND (x.entered IS NOT NULL OR x.status <> 'in'
         OR EXISTS (SELECT 1 FROM reading r WHERE r.script_id = x.id AND r.state = 'handed in'))
     ORDER BY a.position`,
  )

  const toldResults = db.prepare<[string], { studentId: string; number: number }>(
    'SELECT student_id AS studentId, number FROM told_result WHERE course_id = ?',
  )
  const keep = db.prepare(
    `INSERT INTO told_result (course_id, student_id, number, at) VALUES (?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET number = excluded.number, at = excluded.at`,
  )
  const keepTold = (courseId: string, number: number, studentIds: readonly string[]) =>
    writing(db, () => {
      for (const id of studentIds) keep.run(courseId, id, number, now())
    })

  async function tellDue(): Promise<number> {
    let sent = 0
    for (const { courseId, sectionId, onDay, by, byName, since } of untold.all(clock.today())) {
      const issue = issues.inForce(courseId)
      if (!issue) continue
      const { code, title } = course.get(courseId)!
      const subject = `${code}: your result is out`
      const has = new Set(lettersSince.all(courseId, subject, since))
      const those = reached.all(courseId).filter((s) => s.sectionId === sectionId && !has.has(s.personId))
      const body = (name: string) =>
        `${name},\n\nyour result in ${code} ${title} is out (issue ${issue.number}). You find it, with how it came about, where you see your work.\n\n${byName}`
      const went = await send(
        courseId,
        { id: by, name: byName },
        those.map((s) => ({ to: s, toId: s.personId, subject, body: body(s.name) })),
      )
      sent += went
      keepTold(
        courseId,
        issue.number,
        those.slice(0, went).map((s) => s.studentId),
      )
      // Where the post is down, those who have none yet get theirs when it is looked again.
      if (went === those.length) told.run(now(), courseId, sectionId, onDay)
    }
    return sent
  }
  // One look after the other, so that nobody is told twice.
  let looking: Promise<number> = Promise.resolve(0)

  return {
    /** Tells the students of every section whose results have come out, each once; of whom none was told yet. @returns how many letters */
    due: (): Promise<number> => (looking = looking.then(tellDue, tellDue)),
    /** Tells students that the marks of single assessments were let out to them by hand. */
    async letOut(courseId: string, placed: readonly { assessmentId: string; sectionId: string }[], from: Sender): Promise<number> {
      const { code, title } = course.get(courseId)!
      const marked = placed.flatMap((p) => withMark.all({ course: courseId, ...p }))
      return send(
        courseId,
        from,
        [...group(marked, (m) => m.personId).values()].map((own) => ({
          to: own[0]!,
          toId: own[0]!.personId,
          subject: `${code}: ${own.length === 1 ? `your mark in ${own[0]!.assessment} is` : `${own.length} of your marks are`} out`,
          body: `${own[0]!.name},\n\nyou can see what came of ${LIST.format(own.map((m) => m.assessment))} in ${code} ${title} where you see your work.\n\n${from.name}`,
        })),
      )
    },
    /** Tells those who signed an issue, other than who did it, that it was opened again, and why. */
    async reopened(courseId: string, { number, inForce }: IssueHead, reason: string, from: Sender): Promise<number> {
      const { code, title } = course.get(courseId)!
      const still = inForce ? number : issues.inForce(courseId)?.number
      const stands =
        still === undefined
          ? 'No issue is in force until the next one is signed.'
          : `Issue ${still} stays in force until the next one is signed.`
      return send(
        courseId,
        from,
        signers.all(courseId, number, from.id).map((s) => ({
          to: s,
          toId: s.personId,
          subject: `${code}: issue ${number} is reopened`,
          body: `${s.name},\n\nyou signed issue ${number} of ${code} ${title}. ${from.name} has reopened the course: ${reason}\n\n${stands}\n\n${from.name}`,
        })),
      )
    },
    /** Tells those whose results are out what an issue that has come into force changes for them, against what they were last told. */
    async changed(courseId: string, number: number, from: Sender): Promise<number> {
      const last = new Map(toldResults.all(courseId).map((t) => [t.studentId, t.number]))
      // Who was let out before it was kept, or had no way in then, was to be told of the issue that counted then.
      const before = issues.heads(courseId).find((i) => i.number < number && i.counted)?.number
      const out = reached.all(courseId).filter((s) => s.onDay !== null && s.onDay <= clock.today())
      const { code, title } = course.get(courseId)!
      const letters: { studentId: string; letter: Written }[] = []
      for (const [was, students] of group(out, (s) => last.get(s.studentId) ?? before)) {
        if (was === undefined || was === number) continue
        const { students: compared } = orProblem(
          await pool.compareIssues({ file: db.name, courseId, from: was, to: number }, { personId: from.id }),
        )
        const changed = new Map(compared.map((s) => [s.studentId, s]))
        for (const s of students) {
          const own = changed.get(s.studentId)
          if (!own || (own.was?.grade === own.now?.grade && own.was?.rounded === own.now?.rounded)) continue
          const body = `${s.name},\n\nyour result in ${code} ${title} was ${inWords(own.was)} and is now ${inWords(own.now)} (issue ${number}).\n\n${from.name}`
          letters.push({ studentId: s.studentId, letter: { to: s, toId: s.personId, subject: `${code}: your result has changed`, body } })
        }
      }
      const went = await send(
        courseId,
        from,
        letters.map((l) => l.letter),
      )
      keepTold(
        courseId,
        number,
        letters.slice(0, went).map((l) => l.studentId),
      )
      return went
    },
  }
}

export type Announcing = ReturnType<typeof announcing>

const inWords = (f: IssuedFigures | null): string =>
  f === null ? 'none' : `${f.grade ?? 'no grade yet'}${f.rounded === null ? '' : ` (${f.rounded})`}`
