import type { Decision, HandOver, ShareRule, Sharing, SharingTried } from '#contract'
import { COURSE, api, demoServer } from '../../testing/serve'

const { server, lead } = demoServer()

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const of = (assessment: string) => api(`/assessments/${COURSE}-${assessment}/sharing`)
const sharing = async (assessment: string) => (await lead('get', of(assessment)).expect(200)).body as Sharing
const everyone = Array.from({ length: 11 }, (_, i) => ({ id: `marker-${i + 1}`, capacity: 1 }))
const rule = (more: Partial<ShareRule> = {}): ShareRule => ({
  how: 'draw',
  readings: 2,
  markers: everyone,
  panels: [],
  avoidOwnSection: true,
  keep: false,
  moveBegun: [],
  seed: 4,
  sample: { share: 0.1, least: 10, zone: 1 },
  ...more,
})
const tried = async (assessment: string, r: ShareRule) => (await lead('post', `${of(assessment)}/try`, r).expect(200)).body as SharingTried

test('what is read is somebody’s, and those who share no script with the others are told apart', async () => {
  const map = await sharing('map')
  expect(map.loads.reduce((n, l) => n + l.handedIn, 0)).toBe(map.loads.reduce((n, l) => n + l.allotted, 0))
  expect(map.groups).toHaveLength(2)
  expect(map.groups[1]).toEqual(['Joss Sorley', 'Kamala Verrin'])
  expect(map.short).toBe(0)
})

test('tried, nothing changes; done, it is what was tried', async () => {
  const before = await sharing('stereo')
  const t = await tried('stereo', rule())
  expect(await sharing('stereo')).toEqual(before)
  expect(t.readings).toBe(before.scripts * 2)
  expect([t.groups.length, t.ownSection, t.joining]).toEqual([1, 0, []])
  const after = (await lead('put', of('stereo'), rule()).expect(200)).body as Sharing
  expect(after.loads.map((l) => l.allotted)).toEqual(t.loads.map((l) => l.after))
  const loads = after.loads.map((l) => l.allotted)
  expect(Math.max(...loads) - Math.min(...loads)).toBeLessThanOrEqual(1)
  expect(after.short).toBe(0)
})

test('somebody falls ill: what is begun stays, the rest goes to the others', async () => {
  const one = server.db
    .prepare('SELECT student_id AS id FROM allotment WHERE assessment_id = ? AND marker_id = ?')
    .get(`${COURSE}-stereo`, 'marker-1') as { id: string }
  server.db
    .prepare('INSERT INTO script (id, student_id, assessment_id) VALUES (?, ?, ?) ON CONFLICT DO NOTHING')
    .run(`${COURSE}-stereo:${one.id}`, one.id, `${COURSE}-stereo`)
  const script = server.db.prepare('SELECT id FROM script WHERE assessment_id = ? AND student_id = ?').get(`${COURSE}-stereo`, one.id) as {
    id: string
  }
  server.db.prepare("INSERT INTO reading (id, script_id, marker_id, state) VALUES ('begun', ?, 'marker-1', 'draft')").run(script.id)
  const without = rule({ markers: everyone.filter((m) => m.id !== 'marker-1') })
  const after = (await lead('put', of('stereo'), without).expect(200)).body as Sharing
  expect(after.loads.find((l) => l.id === 'marker-1')).toMatchObject({ allotted: 1, draft: 1 })
  expect(after.short).toBe(0)
})

test('by section, everyone, and the groups that then share nothing', async () => {
  const bySection = await tried('detail', rule({ how: 'by section' }))
  expect(bySection.loads.filter((l) => l.after > 0)).toHaveLength(8)
  const all = await tried('detail', rule({ how: 'everyone', markers: everyone.slice(0, 3) }))
  const { scripts } = await sharing('detail')
  expect(all.loads.filter((l) => l.after === scripts)).toHaveLength(3)
})

test('a sample for second reading has every fail, says why, and adds to what is read', async () => {
  const before = await sharing('paper-1')
  const t = await tried('paper-1', rule({ how: 'sample' }))
  expect(t.sample.map((s) => s.why)).toContain('fails')
  const inSample = t.sample.reduce((n, s) => n + s.scripts, 0)
  expect(inSample).toBeGreaterThanOrEqual(Math.ceil(before.scripts * 0.1))
  // Kept from their own section as far as can be; what was read before is not held against anybody.
  expect(t.ownSection).toBe(0)
  expect((await tried('map', rule({ how: 'sample' }))).readings).toBeGreaterThan(20)
  const read = before.loads.reduce((n, l) => n + l.allotted, 0)
  const after = (await lead('put', of('paper-1'), rule({ how: 'sample' })).expect(200)).body as Sharing
  expect(after.loads.reduce((n, l) => n + l.handedIn, 0)).toBe(before.loads.reduce((n, l) => n + l.handedIn, 0))
  expect(after.loads.reduce((n, l) => n + l.allotted, 0)).toBeGreaterThan(read)
})

test('chosen one by one, those and nobody else get one more reading; who has no work here is named', async () => {
  const chosen = server.db
    .prepare("SELECT s.student_id AS id FROM script s WHERE s.assessment_id = ? AND s.status = 'in' ORDER BY s.id LIMIT 4")
    .pluck()
    .all(`${COURSE}-paper-1`) as string[]
  const t = await tried('paper-1', rule({ how: 'sample', sample: { share: 0, least: 0, zone: 0, only: [...chosen, 'gone'] } }))
  expect(t.sample).toEqual([{ why: 'chosen', scripts: 4 }])
  // Also those that have more readers than the others already.
  expect(t.readings).toBe(4)
  expect(t.notes).toEqual(['1 of those chosen have no work here to be read.'])
})

test('what cannot be is refused with what to change', async () => {
  expect(detail(await lead('post', `${of('stereo')}/try`, rule({ readings: 3, markers: everyone.slice(0, 2) })).expect(422))).toMatch(
    /3 readings of a script take 3 markers; 2 have time/,
  )
  expect(detail(await lead('post', `${of('stereo')}/try`, rule({ markers: [{ id: 'nobody', capacity: 1 }] })).expect(422))).toBe(
    'There is no such marker.',
  )
})

test('by when, and who sees what', async () => {
  await lead('put', api(`/assessments/${COURSE}-map/markers/marker-2/deadline`), { due: '2026-12-01' }).expect(204)
  await lead('put', api(`/assessments/${COURSE}-map/blindness`), {
    blind: false,
    sees: { marks: true, comments: false, notes: true },
  }).expect(204)
  const map = await sharing('map')
  expect(map.loads.find((l) => l.id === 'marker-2')!.due).toBe('2026-12-01')
  expect(map.assessment).toMatchObject({ blind: false, sees: { marks: true, comments: false, notes: true } })
  await lead('put', api(`/assessments/${COURSE}-map/markers/marker-2/deadline`), { due: null }).expect(204)
  expect((await sharing('map')).loads.find((l) => l.id === 'marker-2')!.due).toBeNull()
})

test('panels: every member reads each of its scripts; an empty panel is refused in words', async () => {
  const panels = [
    ['marker-1', 'marker-2', 'marker-3'],
    ['marker-4', 'marker-5', 'marker-6'],
  ]
  const before = await sharing('detail')
  const t = await tried('detail', rule({ how: 'panels', panels }))
  expect(t.readings).toBe(before.scripts * 3)
  expect(t.groups.map((g) => g.length)).toEqual([3, 3])
  expect(t.joining).toHaveLength(1)
  const refused = await lead('post', `${of('detail')}/try`, rule({ how: 'panels', panels: [[]] })).expect(422)
  expect(detail(refused)).toBe('Panel 1 has no member.')
})

test('the last sharing out is taken back: who read what before does again, and what is begun meanwhile stays', async () => {
  const assessment = 'part-1'
  const allotted = () =>
    server.db
      .prepare('SELECT student_id AS s, marker_id AS m FROM allotment WHERE assessment_id = ? ORDER BY marker_id, place')
      .all(`${COURSE}-${assessment}`)
  const takeBack = (id: number) => lead('delete', `${of(assessment)}/${id}`)
  expect((await sharing(assessment)).latest).toBeNull()
  const once = (await lead('put', of(assessment), rule({ readings: 1 })).expect(200)).body as Sharing
  const first = allotted()
  const twice = (await lead('put', of(assessment), rule({ readings: 2, seed: 9 })).expect(200)).body as Sharing
  expect(twice.latest).not.toBe(once.latest)
  expect(detail(await takeBack(once.latest!).expect(409))).toMatch(/was shared out anew since/)
  const undone = (await takeBack(twice.latest!).expect(200)).body as Sharing
  expect(allotted()).toEqual(first)
  expect([undone.latest, undone.short]).toEqual([once.latest, 0])
  await takeBack(twice.latest!).expect(409)

  const begun = first[0] as { s: string; m: string }
  server.db
    .prepare("INSERT INTO reading (id, script_id, marker_id, state) VALUES ('begun meanwhile', ?, ?, 'draft')")
    .run(`${COURSE}-${assessment}:${begun.s}`, begun.m)
  await takeBack(once.latest!).expect(200)
  expect(allotted()).toEqual([begun])
})

describe('what is shared out keeps its rule, and how many readings a mark waits for', () => {
  const wanted = () =>
    (server.db.prepare('SELECT readings_wanted AS n FROM assessment WHERE id = ?').get(`${COURSE}-detail`) as { n: number }).n
  const pairs = () =>
    server.db
      .prepare("SELECT student_id || ' ' || marker_id AS pair FROM allotment WHERE assessment_id = ? ORDER BY 1")
      .pluck()
      .all(`${COURSE}-detail`) as string[]

  test('shared out with two readings, the first is not the mark: two are wanted, and taken back one is again', async () => {
    expect(wanted()).toBe(1)
    expect((await tried('detail', rule({ seed: 9 }))).readingsWanted).toBe(2)
    const done = (await lead('put', of('detail'), rule({ seed: 9 })).expect(200)).body as Sharing
    expect([wanted(), done.assessment.readingsWanted]).toEqual([2, 2])
    expect(done.rule).toEqual(rule({ seed: 9 }))
    await lead('delete', `${of('detail')}/${done.latest!}`).expect(200)
    expect(wanted()).toBe(1)
  })

  test('somebody falls ill: only what is theirs moves, on purpose what they began as well, and what they did is kept', async () => {
    await lead('put', of('detail'), rule({ seed: 9 })).expect(200)
    const before = pairs()
    const ill = before.filter((p) => p.endsWith(' marker-1'))
    const [begun] = ill.map((p) => p.split(' ')[0]!)
    const scriptId = `${COURSE}-detail:${begun!}`
    server.db
      .prepare('INSERT INTO script (id, student_id, assessment_id) VALUES (?, ?, ?) ON CONFLICT DO NOTHING')
      .run(scriptId, begun, `${COURSE}-detail`)
    server.db
      .prepare(
        "INSERT INTO reading (id, script_id, marker_id, mark, comment, state) VALUES ('half-done', ?, 'marker-1', 11, 'So far so good', 'draft')",
      )
      .run(scriptId)
    const kept = (await sharing('detail')).rule!
    const without = { ...kept, keep: true, markers: kept.markers.filter((m) => m.id !== 'marker-1') }
    await lead('put', of('detail'), without).expect(200)
    expect(pairs().filter((p) => p.endsWith(' marker-1'))).toEqual([`${begun!} marker-1`])
    expect(before.filter((p) => !p.endsWith(' marker-1') && !pairs().includes(p))).toEqual([])
    await lead('put', of('detail'), { ...without, moveBegun: ['marker-1'] }).expect(200)
    expect(pairs().filter((p) => p.endsWith(' marker-1'))).toEqual([])
    const after = await sharing('detail')
    expect([after.short, after.loads.find((l) => l.id === 'marker-1')!.allotted]).toEqual([0, 0])
    expect(server.db.prepare("SELECT mark, comment FROM reading WHERE id = 'half-done'").get()).toEqual({
      mark: 11,
      comment: 'So far so good',
    })
  })
})

test('what a marker leaves unread goes to the others by their loads, and back with one step; what is handed in stays theirs', async () => {
  const open = server.db.prepare<[string], { course: string; marker: string; n: number }>(
    `SELECT a.course_id AS course, l.marker_id AS marker, count(*) AS n FROM allotment l JOIN assessment a ON a.id = l.assessment_id AND a.away = 0
     WHERE NOT EXISTS (SELECT 1 FROM script s JOIN reading r ON r.script_id = s.id AND r.marker_id = l.marker_id AND r.state = 'handed in'
       WHERE s.assessment_id = l.assessment_id AND s.student_id = l.student_id) AND a.course_id = ?
     GROUP BY l.marker_id ORDER BY n DESC`,
  )
  const { marker, n } = open.get('cfs118-2026')!
  const path = `/api/courses/cfs118-2026/people/${marker}/hand-over`
  const allotted = () =>
    server.db
      .prepare("SELECT assessment_id, student_id, marker_id FROM allotment WHERE assessment_id LIKE 'cfs118-2026%' ORDER BY 1, 2, 3")
      .raw()
      .all()
  const before = allotted()
  const { assessments, why } = (await lead('get', path).expect(200)).body as HandOver
  expect(why).toBeNull()
  expect(assessments.reduce((sum, a) => sum + a.scripts, 0)).toBe(n)
  for (const a of assessments) expect(a.to.reduce((sum, t) => sum + t.scripts, 0)).toBe(a.scripts)
  expect(allotted()).toEqual(before)

  const handed = (await lead('post', path).expect(200)).body as { assessmentId: string; sharingId: number }[]
  expect(open.all('cfs118-2026').find((o) => o.marker === marker)).toBeUndefined()
  const after = allotted()
  expect(after).toHaveLength(before.length)
  // Nobody was given a script twice, and what others had they still have.
  expect(before.filter((row) => (row as string[])[2] !== marker && !after.some((r) => String(r) === String(row)))).toEqual([])
  await lead('delete', `/api/courses/cfs118-2026/people/${marker}`).expect(200)
  await lead('put', `/api/courses/cfs118-2026/people/${marker}`, { role: 'marker' }).expect(200)
  for (const { assessmentId, sharingId } of handed)
    await lead('delete', `/api/courses/cfs118-2026/assessments/${assessmentId}/sharing/${sharingId}`).expect(200)
  expect(allotted()).toEqual(before)
  expect((await lead('get', '/api/courses/cfs118-2026/people/nobody/hand-over').expect(200)).body).toEqual({ assessments: [], why: null })
})

describe('what would be given out anew, what stays and what is taken add up', () => {
  const sums = (t: SharingTried) => ({
    before: t.loads.reduce((n, l) => n + l.before, 0),
    after: t.loads.reduce((n, l) => n + l.after, 0),
    given: t.loads.reduce((n, l) => n + l.given, 0),
  })
  test('with who reads what left as it is only what is missing is given out; without it, it is drawn anew', async () => {
    await lead('put', of('stereo'), rule({ seed: 3 })).expect(200)
    const keep = await tried('stereo', rule({ seed: 8, keep: true }))
    const anew = await tried('stereo', rule({ seed: 8, keep: false }))
    expect([keep.readings, keep.taken]).toEqual([0, 0])
    expect(anew.readings).toBeGreaterThan(50)
    for (const t of [keep, anew]) {
      expect(t.readings + t.stay).toBe(sums(t).after)
      expect(t.taken + t.stay).toBe(sums(t).before)
      expect(t.readings).toBe(sums(t).given)
    }
  })

  test('a sample says how many it is, who of it has a further reading already, and when it is most of the course', async () => {
    const before = await sharing('map')
    const t = await tried('map', rule({ how: 'sample', sample: { share: 0, least: 0, zone: 40 } }))
    const size = t.sample.reduce((n, s) => n + s.scripts, 0)
    const already = Number(/^(\d+) of the sample ha/.exec(t.notes.find((n) => n.includes('of the sample')) ?? '0 of the sample has')![1])
    expect(t.readings + already).toBe(size)
    expect(t.notes.some((n) => /within 40 marks of a boundary: take less/.test(n))).toBe(true)
    expect(before.usualZone).toBeGreaterThan(0)
    expect(before.usualZone).toBeLessThanOrEqual(2.5)
  })

  test('more readings wanted than there are: how many marks would be open by that is said before', async () => {
    const t = await tried('paper-1', rule({ readings: 3 }))
    expect(t.readingsWanted).toBe(3)
    expect(t.opens).toBeGreaterThan(0)
    expect((await tried('paper-1', rule({ readings: 1 }))).opens).toBe(0)
  })

  test('done, the record says so, and once more when it is taken back; it is taken back there alone', async () => {
    const record = async () => (await lead('get', api('/decisions')).expect(200)).body as Decision[]
    const { length } = await record()
    const { opens } = await tried('paper-1', rule({ readings: 2 }))
    expect(opens).toBeGreaterThan(1)
    const { latest } = (await lead('put', of('paper-1'), rule({ readings: 2 })).expect(200)).body as Sharing
    const [raised] = await record()
    expect(raised).toMatchObject({
      kind: 'plan',
      changes: [],
      summary: expect.stringMatching(
        new RegExp(`: 2 readings wanted of each script, 1 before; ${opens} marks are open until they are in$`),
      ) as string,
    })
    const withdraw = lead('post', api(`/decisions/${raised!.id}/withdraw`), { reason: 'too many' })
    expect(detail(await withdraw.expect(409))).toBe('This is taken back where it was done: share out anew at Mark.')
    // Shared out by as many readings as are wanted already, the record has nothing more to say.
    await lead('delete', `${of('paper-1')}/${latest}`).expect(200)
    await lead('put', of('paper-1'), rule({ readings: 1 })).expect(200)
    const after = await record()
    expect(after).toHaveLength(length + 2)
    expect(after[0]!.summary).toMatch(/: 1 reading wanted of each script, 2 before$/)
  })

  test('who withdraws leaves the piles of those who have not read them, and is back in them when they are back', async () => {
    const { studentId, markerId } = server.db
      .prepare(
        `SELECT a.student_id AS studentId, a.marker_id AS markerId FROM allotment a WHERE a.assessment_id = ? AND NOT EXISTS (
           SELECT 1 FROM script s JOIN reading r ON r.script_id = s.id WHERE s.assessment_id = a.assessment_id AND s.student_id = a.student_id)`,
      )
      .get(`${COURSE}-stereo`) as { studentId: string; markerId: string }
    const load = async () => (await sharing('stereo')).loads.find((l) => l.id === markerId)!.allotted
    const before = await load()
    const leave = (day: string | null) => server.db.prepare('UPDATE enrolment SET to_day = ? WHERE student_id = ?').run(day, studentId)
    leave('2026-11-01')
    expect([await load(), (await sharing('stereo')).withdrawn]).toEqual([before - 1, 2])
    leave(null)
    expect([await load(), (await sharing('stereo')).withdrawn]).toEqual([before, 0])
  })
})
