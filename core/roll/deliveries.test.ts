import { daysLateOn, dueFor, placeDelivery, type Delivery, type Expected } from '.'

const delivery: Delivery = { candidate: '4001', assessment: 'Sketch map', kind: 'text', day: '2026-11-20', hash: 'b' }
const expected: Expected = {
  studentId: 's',
  assessmentId: 'a',
  title: 'Sketch map',
  applies: true,
  due: '2026-11-18',
  status: 'in',
  hashes: [],
  attempts: 0,
}

test('work is placed as the next attempt, with the days it is late', () => {
  expect(placeDelivery(delivery, expected)).toEqual({ kind: 'place', studentId: 's', assessmentId: 'a', attempt: 1, daysLate: 2 })
  expect(placeDelivery({ ...delivery, day: '2026-11-18' }, { ...expected, attempts: 2, hashes: ['a'] })).toMatchObject({
    attempt: 3,
    daysLate: 0,
  })
  expect(placeDelivery(delivery, { ...expected, due: null, status: 'missing' })).toMatchObject({ kind: 'place', daysLate: 0 })
})

test('what does not fit waits with the reason; the same file again is set aside', () => {
  expect(placeDelivery(delivery, 'No student has candidate number 9.')).toEqual({ kind: 'wait', why: 'No student has candidate number 9.' })
  expect(placeDelivery({ ...delivery, kind: 'other' }, expected)).toMatchObject({
    kind: 'wait',
    why: expect.stringContaining('neither text nor PDF'),
  })
  expect(placeDelivery(delivery, { ...expected, applies: false })).toMatchObject({ why: 'Sketch map is not set for this student.' })
  for (const status of ['exempt', 'absent'] as const)
    expect(placeDelivery(delivery, { ...expected, status })).toEqual({ kind: 'wait', why: `This student is ${status} for Sketch map.` })
  expect(placeDelivery(delivery, { ...expected, hashes: ['a', 'b'], attempts: 2 })).toEqual({
    kind: 'set aside',
    why: 'The same file came before.',
  })
  // The first version once more, after another one, is the latest.
  expect(placeDelivery(delivery, { ...expected, hashes: ['b', 'a'], attempts: 2 })).toMatchObject({ kind: 'place', attempt: 3 })
})

test('days late are whole days after the due day', () => {
  expect(daysLateOn('2026-10-24', '2026-10-26')).toBe(2)
  expect(daysLateOn('2026-10-26', '2026-10-24')).toBe(0)
  expect(daysLateOn(null, '2026-10-24')).toBe(0)
})

test('who moved has the day of the section they were in on it', () => {
  const placements = [
    { sectionId: 'old', due: '2026-10-01' },
    { sectionId: 'new', due: '2026-10-20' },
  ]
  const moved = [
    { sectionId: 'old', from: '2026-09-07', to: '2026-10-10' },
    { sectionId: 'new', from: '2026-10-11', to: null },
  ]
  expect(dueFor(placements, moved, 'new')).toBe('2026-10-01')
  expect(dueFor(placements, [{ sectionId: 'new', from: '2026-09-07', to: null }], 'new')).toBe('2026-10-20')
  expect(dueFor([], moved, 'new')).toBeNull()
  expect(dueFor([{ sectionId: 'new', due: null }], moved, 'new')).toBeNull()
})
