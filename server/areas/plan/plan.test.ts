import { gradeCourse } from '#core/grades'
import { toCourse, workingsOf, type TableLike } from '#core/trial'
import {
  unpackTable,
  type Assessment,
  type Component,
  type CourseHead,
  type Decision,
  type GradeSet,
  type Plan,
  type TableInColumns,
  type CourseOutcomes,
} from '#contract'
import { COURSE, api, demoServer } from '../../testing/serve'

const { server, lead } = demoServer()

const planOf = async (courseId: string) => (await lead('get', `/api/courses/${courseId}/plan`).expect(200)).body as Plan
const table = async () => unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
const finals = (t: TableLike) => gradeCourse(toCourse(workingsOf(t))).students.map((s) => s.final)
const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const NOTHING = { plan: false, placements: false, standards: false, boundaries: false, people: false }
const ALL = { plan: true, placements: true, standards: true, boundaries: true, people: true }
let nth = 0
async function started(from: string | null, take = ALL): Promise<string> {
  const body = {
    code: `NEW ${++nth}`,
    title: 'Field Mapping',
    term: 'autumn 2027',
    firstDay: '2027-09-06',
    lastDay: '2027-12-17',
    from,
    take,
  }
  return ((await lead('post', '/api/courses', body).expect(200)).body as CourseHead).id
}

describe('a course from nothing', () => {
  let id: string
  const at = (path: string) => `/api/courses/${id}${path}`
  let component: Component
  beforeAll(async () => {
    id = await started(null, NOTHING)
    const body = { title: 'Practicals', weight: null, combine: 'byWorth', dropLowest: 1, bonus: false }
    component = (await lead('post', at('/components'), body).expect(200)).body as Component
  })
  const add = async (title: string, more: object = {}) =>
    (
      await lead('post', at('/assessments'), {
        componentId: component.id,
        title,
        marking: 'direct',
        outOf: 30,
        worth: null,
        placed: true,
        ...more,
      }).expect(200)
    ).body as Assessment
  const edit = (a: Assessment, patch: object) => lead('patch', at(`/assessments/${a.id}`), { version: a.version, ...patch })

  test('an empty weight stays empty and is not taken for a nothing', async () => {
    expect((await planOf(id)).components[0]).toMatchObject({ weight: null, dropLowest: 1 })
  })
  test('a second quiz becomes Quiz 2, and keeps its own title when it is saved again', async () => {
    await add('Quiz')
    const second = await add('quiz')
    expect(second.title).toBe('quiz 2')
    expect((await edit(second, { title: 'quiz 2' }).expect(200)).body).toMatchObject({ title: 'quiz 2' })
  })
  test('the worth follows the maximum until another is typed', async () => {
    let a = await add('Essay')
    expect(a).toMatchObject({ outOf: 30, worth: 30, worthFollows: true })
    a = (await edit(a, { outOf: 40 }).expect(200)).body as Assessment
    expect(a.worth).toBe(40)
    a = (await edit(a, { worth: 10 }).expect(200)).body as Assessment
    a = (await edit(a, { outOf: 50 }).expect(200)).body as Assessment
    expect(a).toMatchObject({ outOf: 50, worth: 10, worthFollows: false })
    a = (await edit(a, { worthFollows: true }).expect(200)).body as Assessment
    expect(a.worth).toBe(50)
  })
  test('taken away and brought back', async () => {
    const a = await add('Poster')
    await edit(a, { away: true }).expect(200)
    const plan = await planOf(id)
    expect(plan.assessments.map((x) => x.id)).not.toContain(a.id)
    expect(plan.away).toEqual([{ id: a.id, title: 'Poster', decisionId: null, version: a.version + 1 }])
    await lead('patch', at(`/assessments/${a.id}`), { version: a.version + 1, away: false }).expect(200)
    expect((await planOf(id)).assessments.map((x) => x.id)).toContain(a.id)
  })
  test('the order is kept; a component with assessments stays', async () => {
    const ids = (await planOf(id)).assessments.map((a) => a.id).reverse()
    await lead('put', at('/assessments/order'), { ids }).expect(204)
    expect((await planOf(id)).assessments.map((a) => a.id)).toEqual(ids)
    expect(detail(await lead('delete', at(`/components/${component.id}`)).expect(409))).toMatch(/Practicals holds 4 assessments/)
  })
  test('a pass mark over the maximum, a stale edit: each gets a sentence', async () => {
    const a = await add('Talk')
    expect(detail(await edit(a, { passMark: 31 }).expect(422))).toBe('The pass mark 31 is over the maximum of 30.')
    await edit(a, { notes: 'Bring a pointer' }).expect(200)
    expect(detail(await edit(a, { notes: 'x' }).expect(409))).toMatch(/Somebody changed this assessment meanwhile/)
  })
  test('set back to direct it is marked by nothing, and can be marked by something again', async () => {
    let a = await add('Chart')
    const { id: standardId } = server.db.prepare("SELECT id FROM standard WHERE kind = 'rubric' AND state = 'ready'").get() as {
      id: string
    }
    const attach = async (to: string | null) =>
      (await lead('put', at(`/assessments/${a.id}/standard`), { version: a.version, standardId: to }).expect(200)).body as Assessment
    a = await attach(standardId)
    expect(a).toMatchObject({ marking: 'rubric', standardId })
    a = (await edit(a, { marking: 'direct' }).expect(200)).body as Assessment
    expect(a).toMatchObject({ marking: 'direct', standardId: null })
    a = await attach(standardId)
    a = (await edit(a, { marking: 'completion' }).expect(200)).body as Assessment
    expect(a).toMatchObject({ marking: 'completion', standardId: null })
  })
  test('policies are set while there are no marks', async () => {
    const { policy } = await planOf(id)
    await lead('put', at('/policy'), { policy: { ...policy, late: { kind: 'cap', percent: 50 } } }).expect(200)
    expect((await planOf(id)).policy.late).toEqual({ kind: 'cap', percent: 50 })
  })
})

describe('once there are marks', () => {
  const adopt = async (changes: object[]) =>
    (await lead('post', api('/decisions'), { changes, reason: 'tried' }).expect(200)).body as Decision
  const withdraw = (d: Decision) => lead('post', api(`/decisions/${d.id}/withdraw`), { reason: 'back' }).expect(200)

  test.each([
    ['shape', { kind: 'shape', componentId: `${COURSE}-c-practicals`, patch: { dropLowest: 0 } }, /drops none/],
    ['policy', null, /late costs nothing/],
    ['take away', { kind: 'take away', assessmentId: `${COURSE}-traverse` }, /Traverse closure taken away/],
  ])('%s is a decision, moves grades, and is withdrawn without a trace', async (kind, change, words) => {
    const before = await table()
    const made = await adopt([change ?? { kind, policy: { ...before.policy, late: { kind: 'none' } } }])
    expect(made.summary).toMatch(words)
    expect(made.effect!.percents).toBeGreaterThan(0)
    const after = await table()
    expect(finals(after)).not.toEqual(finals(before))
    if (kind === 'take away') {
      expect(after.assessments.some((a) => a.title === 'Traverse closure')).toBe(false)
      expect((await planOf(COURSE)).away).toEqual([expect.objectContaining({ title: 'Traverse closure', decisionId: made.id })])
    }
    await withdraw(made)
    expect(finals(await table())).toEqual(finals(before))
  })

  test('left out students: the assessment does not apply to them, their mark stays', async () => {
    const before = await table()
    const [a, b] = before.students
    const assessmentId = `${COURSE}-map`
    const made = await adopt([a, b].map((s) => ({ kind: 'exclude', assessmentId, studentId: s!.id, out: true })))
    expect(made.summary).toBe('2 students left out of Map project')
    const after = await table()
    expect(after.leftOut[assessmentId]!.sort()).toEqual([a!.id, b!.id].sort())
    expect(after.scripts).toEqual(before.scripts)
    const back = await adopt([{ kind: 'exclude', assessmentId, studentId: a!.id, out: false }])
    expect((await table()).leftOut[assessmentId]).toEqual([b!.id])
    await withdraw(back)
    await withdraw(made)
    expect((await table()).leftOut).toEqual({})
  })

  test('what moves grades is refused outside a trial; what gives marks another meaning is refused altogether', async () => {
    const { assessments, components } = await planOf(COURSE)
    const a = assessments.find((x) => x.title === 'Traverse closure')!
    const edit = (patch: object) => lead('patch', api(`/assessments/${a.id}`), { version: a.version, ...patch })
    expect(detail(await edit({ worth: 3 }).expect(409))).toMatch(/tried first and then adopted/)
    expect(detail(await edit({ away: true }).expect(409))).toMatch(/tried first and then adopted/)
    expect(detail(await edit({ marking: 'completion' }).expect(409))).toMatch(/has marks: how it is marked/)
    const c = components[0]!
    expect(detail(await lead('patch', api(`/components/${c.id}`), { version: c.version, dropLowest: 2 }).expect(409))).toMatch(
      /tried first/,
    )
    expect(detail(await lead('put', api('/policy'), { policy: (await table()).policy }).expect(409))).toMatch(/tried first/)
  })

  test('a starting mark goes to who has none, and never over a mark or a status', async () => {
    const before = await table()
    const at = before.assessments.findIndex((a) => a.title === 'Stereo heights')
    const marked = new Set(
      Array.from(before.scripts.student).filter((_, i) => before.scripts.assessment[i] === at && !Number.isNaN(before.scripts.entered[i])),
    )
    const answer = await lead('post', api(`/assessments/${before.assessments[at]!.id}/starting-mark`), { mark: 6 }).expect(200)
    const { given, stood } = answer.body as { given: { studentId: string; mark: number }[]; stood: number }
    expect(given.length).toBeGreaterThan(0)
    expect(given.length + stood).toBe(before.students.length)
    expect(given.some((c) => marked.has(before.students.findIndex((s) => s.id === c.studentId)))).toBe(false)
    const again = await lead('post', api(`/assessments/${before.assessments[at]!.id}/starting-mark`), { mark: 7 }).expect(200)
    expect((again.body as { given: unknown[] }).given).toEqual([])
    expect(detail(await lead('post', api(`/assessments/${before.assessments[at]!.id}/starting-mark`), { mark: 25 }).expect(422))).toMatch(
      /over the maximum of 24/,
    )
  })
})

describe('from another course', () => {
  test('next year has the plan, the placements by week and weekday, the people, and no marks or students', async () => {
    const from = await planOf(COURSE)
    const id = await started(COURSE)
    const plan = await planOf(id)
    expect(plan.hasMarks).toBe(false)
    expect(plan.head.students).toBe(0)
    expect(plan.components.map((c) => [c.title, c.weight, c.dropLowest, c.bonus])).toEqual(
      from.components.map((c) => [c.title, c.weight, c.dropLowest, c.bonus]),
    )
    expect(plan.assessments.map((a) => [a.title, a.outOf, a.worth, a.standardId])).toEqual(
      from.assessments.map((a) => [a.title, a.outOf, a.worth, a.standardId]),
    )
    expect(plan.boundaries).toEqual(from.boundaries)
    expect(plan.sections.map((s) => [s.name, s.teacher, s.weekdays])).toEqual(from.sections.map((s) => [s.name, s.teacher, s.weekdays]))
    const due = (p: Plan, title: string, section: string) =>
      p.placements.find(([a, s]) => p.assessments[a]!.title === title && p.sections[s]!.name === section)?.[2]
    expect(due(from, 'Levelling run', 'Clinometer')).toBe('2026-09-29')
    expect(due(plan, 'Levelling run', 'Clinometer')).toBe('2027-09-28')
    expect(plan.placements).toHaveLength(from.placements.length)
    expect(
      server.db.prepare('SELECT count(*) AS n FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = ?').get(id),
    ).toEqual({ n: 0 })
  })

  test('only what is wanted comes', async () => {
    const plan = await planOf(await started(COURSE, { ...NOTHING, plan: true }))
    expect(plan.assessments.length).toBeGreaterThan(10)
    expect(plan.assessments.every((a) => a.standardId === null)).toBe(true)
    expect([plan.sections, plan.placements]).toEqual([[], []])
  })

  test('one assessment is copied from another course with its dates moved', async () => {
    const id = await started(COURSE)
    const from = await planOf('cfs118-2026')
    const original = from.assessments[0]!
    const body = {
      fromCourseId: 'cfs118-2026',
      assessmentId: original.id,
      componentId: (await planOf(id)).components[0]!.id,
      take: { standard: true, passMark: false, moderation: true, notes: true, placements: true },
    }
    const copied = async () =>
      (await lead('post', `/api/courses/${id}/assessments/copies`, body).expect(200)).body as { assessment: Assessment; leftOut: string[] }
    const { assessment: copy, leftOut } = await copied()
    expect(leftOut).toEqual([])
    expect(copy).toMatchObject({ title: original.title, outOf: original.outOf, passMark: null })
    const plan = await planOf(id)
    const at = plan.assessments.findIndex((a) => a.id === copy.id)
    expect(plan.placements.filter(([a]) => a === at)).toHaveLength(8)
    // One begins on the last day of the term: it is not set for it, and that is said.
    const { name, id: late } = plan.sections[2]!
    server.db.prepare('UPDATE section SET first_day = ? WHERE id = ?').run(plan.head.lastDay, late)
    server.db.prepare('UPDATE course SET plan_version = plan_version + 1 WHERE id = ?').run(id)
    const twice = await copied()
    expect([twice.assessment.title, twice.leftOut]).toEqual([`${original.title} 2`, [name]])
    expect(server.db.prepare('SELECT count(*) FROM placement WHERE assessment_id = ?').pluck().get(twice.assessment.id)).toBe(7)
  })

  test('a course that is there already, a term that ends before it begins, somebody who leads nothing', async () => {
    const body = {
      code: 'CFS 214',
      title: 'x',
      term: 'autumn 2026',
      firstDay: '2026-09-07',
      lastDay: '2026-12-18',
      from: null,
      take: NOTHING,
    }
    expect(detail(await lead('post', '/api/courses', body).expect(422))).toMatch(/is there already/)
    expect(detail(await lead('post', '/api/courses', { ...body, lastDay: '2026-09-01' }).expect(422))).toMatch(/must come after the first/)
    const marker = await server.as('rune.daal')
    expect(detail(await marker('post', '/api/courses', { ...body, code: 'X' }).expect(403))).toMatch(/who leads one/)
  })
})

test('a whole plan comes in at once, with its days; it goes again as long as nobody worked with it', async () => {
  const plan = async () =>
    (await lead('get', api('/plan')).expect(200)).body as {
      components: { title: string }[]
      assessments: { id: string; title: string; counts: boolean }[]
    }
  const before = await plan()
  const section = server.db.prepare<[string], { id: string }>('SELECT id FROM section WHERE course_id = ? LIMIT 1').get(COURSE)!.id
  const body = {
    components: [{ title: 'Quizzes', weight: 5 }],
    assessments: [
      { title: 'Quiz A', component: 'quizzes', outOf: 20, worth: null, due: [[section, '2026-10-12']] },
      { title: 'Quiz B', component: 'Quizzes', outOf: 20, worth: 7, due: [] },
    ],
  }
  const add = (more: object) => lead('post', api('/plan-lines'), { ...body, ...more })
  const refused = [
    add({ assessments: [{ ...body.assessments[0], title: 'viva' }] }),
    add({ assessments: [{ ...body.assessments[0], component: 'Nowhere' }] }),
    add({ assessments: [{ ...body.assessments[0], due: [['of-another-course', '2026-10-12']] }] }),
    add({ components: [{ title: 'practicals', weight: null }] }),
  ]
  for (const r of refused)
    expect((await r.expect(422)).body).toMatchObject({ detail: expect.stringMatching(/nothing was added/) as string })
  expect((await plan()).components).toEqual(before.components)

  const added = (await add({}).expect(200)).body as { componentIds: string[]; assessmentIds: string[] }
  const now = await plan()
  expect(now.assessments.filter((a) => added.assessmentIds.includes(a.id)).map((a) => [a.title, a.counts])).toEqual([
    ['Quiz A', false],
    ['Quiz B', false],
  ])
  const due = server.db.prepare('SELECT due FROM placement WHERE assessment_id = ? AND section_id = ?').pluck()
  expect([due.get(added.assessmentIds[0], section), due.get(added.assessmentIds[1], section)]).toEqual(['2026-10-12', null])
  // Somebody has handed something in for it.
  const student = server.db.prepare<[string], { id: string }>('SELECT id FROM student WHERE course_id = ? LIMIT 1').get(COURSE)!.id
  server.db
    .prepare("INSERT INTO blind_script (id, assessment_id, student_id, number) VALUES ('quiz', ?, ?, '1')")
    .run(added.assessmentIds[1], student)
  await lead('post', api('/plan-lines/take-back'), added).expect(409)
  expect((await plan()).assessments).toHaveLength(now.assessments.length)
  server.db.prepare("DELETE FROM blind_script WHERE id = 'quiz'").run()
  await lead('post', api('/plan-lines/take-back'), added).expect(204)
  expect(await plan()).toMatchObject({ components: before.components, assessments: before.assessments })
})

test('a department keeps sets of grades: whoever kept one replaces or drops it, and it is there in every course', async () => {
  const sets = (course: string) => `/api/courses/${course}/grade-sets`
  const other = await server.as('lea.ostrand')
  server.db
    .prepare(
      "UPDATE course_role SET role = 'lead' WHERE course_id = 'cfs118-2026' AND person_id = (SELECT id FROM person WHERE sign_in = 'lea.ostrand')",
    )
    .run()
  const kept = (await lead('post', sets(COURSE), { name: 'Cartography' }).expect(200)).body as GradeSet[]
  expect(kept).toEqual([expect.objectContaining({ name: 'Cartography', own: true, by: 'Ines Valdry' })])
  expect(kept[0]!.grades.map((g) => g.grade)).toEqual(['Distinction', 'Merit', 'Credit', 'Pass', 'Refer'])
  const there = (await other('get', sets('cfs118-2026')).expect(200)).body as GradeSet[]
  expect(there).toEqual([{ ...kept[0], own: false }])
  await other('post', sets('cfs118-2026'), { name: 'cartography' }).expect(409)
  await other('delete', `${sets('cfs118-2026')}/${kept[0]!.id}`).expect(403)
  expect((await lead('post', sets(COURSE), { name: 'cartography' }).expect(200)).body).toHaveLength(1)
  expect((await lead('delete', `${sets(COURSE)}/${kept[0]!.id}`).expect(200)).body).toEqual([])
  await lead('delete', `${sets(COURSE)}/${kept[0]!.id}`).expect(404)
  server.db
    .prepare(
      "UPDATE course_role SET role = 'marker' WHERE course_id = 'cfs118-2026' AND person_id = (SELECT id FROM person WHERE sign_in = 'lea.ostrand')",
    )
    .run()
})

test('a copy uses its standard as the original does: hidden points stay hidden, and what is noted on is', async () => {
  const original = (await planOf(COURSE)).assessments.find((a) => a.marking === 'rubric')!
  const use = { ...original.use, hidePoints: true, noteOn: ['line weight'] }
  await lead('patch', api(`/assessments/${original.id}`), { version: original.version, use }).expect(200)
  const id = await started(COURSE)
  const copy = (await planOf(id)).assessments.find((a) => a.title === original.title)!
  expect(copy.use).toEqual(use)
  const taken = { fromCourseId: COURSE, assessmentId: original.id, componentId: copy.componentId }
  const take = { standard: true, passMark: false, moderation: false, notes: false, placements: false }
  const again = (await lead('post', `/api/courses/${id}/assessments/copies`, { ...taken, take }).expect(200)).body as {
    assessment: Assessment
  }
  expect(again.assessment.use).toEqual(use)
  const bare = (await lead('post', `/api/courses/${id}/assessments/copies`, { ...taken, take: { ...take, standard: false } }).expect(200))
    .body as { assessment: Assessment }
  expect(bare.assessment.use).toMatchObject({ hidePoints: false, noteOn: [] })
})

test('a course begun from another one takes along what gives evidence of outcomes and who sees it, and no result', async () => {
  const outcomes = async (id: string) => (await lead('get', `/api/courses/${id}/outcomes`).expect(200)).body as CourseOutcomes
  const [from, id] = [await outcomes(COURSE), await started(COURSE)]
  const to = await outcomes(id)
  const linked = (o: CourseOutcomes) => o.links.map((l) => [l.outcomeId, l.title, l.from]).sort()
  expect(linked(to)).toEqual(linked(from))
  expect(to.outcomes.map((o) => [o.id, o.shown, o.judgements.length]).sort()).toEqual(
    from.outcomes.map((o) => [o.id, o.shown, o.judgements.length]).sort(),
  )
  expect([from.typed.length > 0, to.typed]).toEqual([true, []])
  // Without the standards nothing is judged by them, so there is nothing to be shown.
  expect((await outcomes(await started(COURSE, { ...ALL, standards: false }))).outcomes).toEqual([])
})
