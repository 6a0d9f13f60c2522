import { strFromU8, unzipSync } from 'fflate'
import type { CourseOutcomes, OwnWork, PeopleGroup, SharesOfCourse, TypedEvidence } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { takenOut } from '../../testing/taken-out'

const { server, lead } = demoServer()
let student: Client
let studentId: string
beforeAll(async () => {
  student = await server.as('student')
  studentId = server.db.prepare<[], { id: string }>("SELECT id FROM student WHERE person_id = 'student'").get()!.id
}, 60_000)

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const known = async () => (await lead('get', api('/outcomes')).expect(200)).body as CourseOutcomes
const one = async (id: string) => (await known()).outcomes.find((o) => o.id === id)!
const own = async () => ((await student('get', api('/own-work')).expect(200)).body as OwnWork).standings
const set = (id: string, shown: boolean, judgements: string[]) => lead('put', api(`/outcomes/${id}`), { shown, judgements })
const note = (outcomeId: string, body: object) =>
  lead('post', api(`/outcomes/${outcomeId}/evidence`), { studentId, level: 3, day: '2026-10-12', note: 'Said why, at the weir.', ...body })

test('what gives evidence of an outcome is named: criteria that are linked, and overall judgements that count', async () => {
  const { outcomes, links, judged } = await known()
  expect(outcomes.map((o) => [o.id, o.mine, o.shown]).sort()).toEqual([
    ['outcome-account', true, true],
    ['outcome-draw', true, false],
    ['outcome-generalise', true, true],
  ])
  expect(links.filter((l) => l.outcomeId === 'outcome-generalise').map((l) => [l.assessmentId, l.criterionId])).toEqual([
    [`${COURSE}-map`, 'purpose'],
    [`${COURSE}-map`, 'generalisation'],
  ])
  const overall = links.find((l) => l.criterionId === null)!
  expect([overall.outcomeId, overall.assessmentId]).toEqual(['outcome-account', `${COURSE}-viva-1`])
  expect(overall.from).toEqual(overall.from.toSorted((a, b) => a - b))
  expect(judged).toContain(`${COURSE}-viva-1`)
})

test('one that nothing gives evidence of yet is followed once students are to see it', async () => {
  const { id } = (
    await lead('post', api('/library'), {
      standard: {
        kind: 'outcome',
        title: 'Keeps the book',
        body: {
          statement: 'Books every sight',
          levels: [
            { label: 'not yet', words: '' },
            { label: 'yes', words: '' },
          ],
          reached: 2,
          rule: { kind: 'latest' },
          group: ['In the field'],
        },
      },
      source: null,
    }).expect(200)
  ).body as { id: string }
  expect(await one(id)).toBeUndefined()
  await set(id, true, []).expect(204)
  expect(await one(id)).toMatchObject({ title: 'Keeps the book', shown: true, judgements: [], group: ['In the field'] })
  expect(await own()).toContainEqual(expect.objectContaining({ title: 'Keeps the book', level: null, results: 0 }))
  await set(id, false, []).expect(204)
  expect(await one(id)).toBeUndefined()
})

test('another year is held against by how many stood at each level; all add up to the roll', async () => {
  const { term, outcomes } = (await lead('get', api('/outcome-shares')).expect(200)).body as SharesOfCourse
  expect(term).toBe('autumn 2026')
  const students = server.db
    .prepare<[string], number>(
      'SELECT count(*) FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE s.course_id = ?',
    )
    .pluck()
    .get(COURSE)!
  const total = ({ perLevel, none }: { perLevel: number[]; none: number }) => perLevel.reduce((n, x) => n + x, none)
  for (const o of outcomes) {
    expect(total(o.all)).toBe(students)
    expect(o.sections.reduce((n, s) => n + total(s.counts), 0)).toBe(students)
    expect(o.all.perLevel).toHaveLength(o.levels)
  }
  expect(outcomes.map((o) => o.outcomeId).sort()).toEqual(['outcome-account', 'outcome-draw', 'outcome-generalise'])
  // Of last year as well.
  const before = (await lead('get', '/api/courses/cfs214-2025/outcome-shares').expect(200)).body as SharesOfCourse
  expect(before.outcomes.find((o) => o.outcomeId === 'outcome-account')!.all.perLevel.reduce((n, x) => n + x, 0)).toBeGreaterThan(50)
  await student('get', api('/outcome-shares')).expect(403)
})

test('standings go out as OneRoster results that name the outcome as CASE does', async () => {
  const { body } = await takenOut(lead, '/standings-roster.zip')
  const files = unzipSync(body)
  const objectives = strFromU8(files['resultLearningObjectiveIds.csv']!)
  const items = strFromU8(files['lineItems.csv']!)
  const { CFItems } = (await lead('get', api('/library-outcomes.json')).expect(200)).body as {
    CFItems: { identifier: string; abbreviatedStatement: string }[]
  }
  const account = CFItems.find((i) => i.abbreviatedStatement === 'Accounts for every observation')!
  expect(items).toContain('Accounts for every observation')
  expect(objectives).toContain(account.identifier)
})

test('which overall judgements count is set, of those that are on a scale alone', async () => {
  expect(detail(await set('outcome-draw', true, [`${COURSE}-paper-1`]).expect(422))).toMatch(/Only what is marked by overall judgement/)
  await set('outcome-draw', true, [`${COURSE}-viva-1`]).expect(204)
  expect(await one('outcome-draw')).toMatchObject({ shown: true, judgements: [`${COURSE}-viva-1`] })
  await set('outcome-draw', false, []).expect(204)
  expect(await one('outcome-draw')).toMatchObject({ shown: false, judgements: [] })
  expect(detail(await set('rubric-map', true, []).expect(404))).toMatch(/no such outcome/)
})

test('a result is noted with who and why, counts, and is taken back and never deleted', async () => {
  const made = (await note('outcome-account', {}).expect(200)).body as TypedEvidence
  expect(made).toMatchObject({ studentId, level: 3, day: '2026-10-12', by: 'Ines Valdry', outcomeId: 'outcome-account' })
  expect((await known()).typed).toContainEqual(made)
  await lead('post', api(`/outcomes/outcome-draw/evidence/${made.id}/take-back`)).expect(404)
  await lead('post', api(`/outcomes/outcome-account/evidence/${made.id}/take-back`)).expect(204)
  await lead('post', api(`/outcomes/outcome-account/evidence/${made.id}/take-back`)).expect(404)
  expect((await known()).typed.map((t) => t.id)).not.toContain(made.id)
  expect(() => server.db.exec('DELETE FROM typed_evidence')).toThrow(/never deleted/)
})

test.each([
  [{ level: 5 }, 422, /It has 4 levels/],
  [{ studentId: 'nobody' }, 422, /no such student/],
  [{ note: ' ' }, 422, /Say what it rests on/],
  [{ day: 'yesterday' }, 422, /Give the day/],
])('a note with %j is refused', async (body, status, why) =>
  expect(detail(await note('outcome-account', body).expect(status))).toMatch(why),
)

test('groups are kept under a name of their own, of people who are on the roll, and dropped', async () => {
  const keep = (name: string, studentIds: string[]) => lead('post', api('/groups'), { name, studentIds })
  const made = (await keep('Next field day', [studentId]).expect(200)).body as PeopleGroup
  expect(made).toMatchObject({ name: 'Next field day', studentIds: [studentId], by: 'Ines Valdry' })
  expect(detail(await keep('Next field day', [studentId]).expect(409))).toMatch(/already/)
  expect(detail(await keep('Others', [studentId, 'nobody']).expect(422))).toMatch(/not on the roll/)
  expect(detail(await keep('Nobody', []).expect(422))).toMatch(/Nobody is in it/)
  await lead('delete', api(`/groups/${made.id}`)).expect(204)
  await lead('delete', api(`/groups/${made.id}`)).expect(404)
  const left = (await lead('get', api('/groups')).expect(200)).body as PeopleGroup[]
  expect(left.map((g) => g.name)).toEqual(['Next field day, with Ines'])
})

test('a student sees where they stand on what is shown, by what is released alone, and no other outcome', async () => {
  // The map is not released to them yet: nothing of it may show.
  const hold = (release: object) =>
    server.db.prepare('UPDATE placement SET release = ? WHERE assessment_id = ?').run(JSON.stringify(release), `${COURSE}-map`)
  const bump = () => server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
  hold({ kind: 'by hand', released: false })
  bump()
  const of = async (title: string) => (await own())?.find((s) => s.title === title)
  expect(await of('Sheds detail with judgement')).toMatchObject({ results: 0, level: null })
  // What was noted by hand waits for nothing.
  expect(await of('Accounts for every observation')).toMatchObject({ history: [2, 3, 3], isReached: true })
  expect(await of('Draws for a reader')).toBeUndefined()
  hold({ kind: 'by hand', released: true })
  bump()
  const standing = await of('Sheds detail with judgement')
  const rows = server.db
    .prepare<[string], { picks: string }>("SELECT picks FROM reading WHERE script_id = ? AND state = 'handed in'")
    .all(`${COURSE}-map:${studentId}`)
  expect(standing!.results).toBe(rows.length === 0 ? 0 : 2)
  expect(standing!.levels[standing!.reached - 1]!.label).toBe('alone')
  await set('outcome-generalise', false, []).expect(204)
  expect(await of('Sheds detail with judgement')).toBeUndefined()
})
