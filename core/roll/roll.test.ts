import fc from 'fast-check'
import { applyingExceptions } from './applying'
import { setFor } from './set-for'
import { dayInWeek, sameDayInTerm, shiftDay, teachingWeek, weekdayOf } from './days'
import { layOut } from './lay-out'
import { firstMeeting, meetsOn } from './meetings'
import { readDay } from './read-day'
import { isReleased } from './release'
import { movedDue, movedFirstDay } from './start-from'
import { checkStays, currentSection, moveFrom, sectionOn, StayError } from './stays'

const TERM = { firstDay: '2026-09-07', lastDay: '2026-12-18' }
const NEXT = { firstDay: '2027-09-06', lastDay: '2027-12-17' }
const day = fc.integer({ min: -40, max: 200 }).map((n) => shiftDay(TERM.firstDay, n))
const weekdays = fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { maxLength: 5 }).map((d) => d.sort())

test('teaching weeks run from Monday to Sunday, the first holds the term’s first day', () => {
  expect(teachingWeek(TERM, '2026-09-06')).toBe(0)
  expect(teachingWeek(TERM, '2026-09-07')).toBe(1)
  expect(teachingWeek(TERM, '2026-09-13')).toBe(1)
  expect(teachingWeek(TERM, '2026-12-18')).toBe(15)
  expect(teachingWeek({ firstDay: '2026-09-09' }, '2026-09-07')).toBe(1)
  expect(dayInWeek(TERM, 6, 3)).toBe('2026-10-14')
  // A change of the clock in between makes no week shorter.
  expect(dayInWeek(TERM, 9, 7)).toBe('2026-11-08')
})

test('a day in another term keeps week and weekday, and comes back', () =>
  fc.assert(
    fc.property(day, (d) => {
      const moved = sameDayInTerm(d, TERM, NEXT)
      expect([teachingWeek(NEXT, moved), weekdayOf(moved)]).toEqual([teachingWeek(TERM, d), weekdayOf(d)])
      expect(sameDayInTerm(moved, NEXT, TERM)).toBe(d)
    }),
  ))

test('the first meeting is a meeting, not before the day or the first day, and none lies between', () =>
  fc.assert(
    fc.property(day, weekdays, fc.option(day), (from, days, firstDay) => {
      const section = { weekdays: days, firstDay }
      const found = firstMeeting(section, from)
      expect(meetsOn(section, found)).toBe(true)
      expect(found >= from && (firstDay === null || found >= firstDay)).toBe(true)
      for (let d = from; d < found; d = shiftDay(d, 1)) expect(meetsOn(section, d)).toBe(false)
    }),
  ))

describe('stays', () => {
  const A = [{ sectionId: 'a', from: '2026-09-07', to: null }]
  test('a move ends one stay the day before the next begins', () => {
    const moved = moveFrom(A, 'b', '2026-10-12')
    expect(moved).toEqual([
      { sectionId: 'a', from: '2026-09-07', to: '2026-10-11' },
      { sectionId: 'b', from: '2026-10-12', to: null },
    ])
    expect(sectionOn(moved, '2026-10-11')).toBe('a')
    expect(sectionOn(moved, '2026-10-12')).toBe('b')
    expect(sectionOn(moved, '2026-09-06')).toBeNull()
  })
  test('withdrawn and brought back', () => {
    const gone = moveFrom(A, null, '2026-10-12')
    expect(currentSection(gone)).toBeNull()
    const back = moveFrom(gone, 'a', '2026-11-02')
    expect(currentSection(back)).toBe('a')
    expect(sectionOn(back, '2026-10-20')).toBeNull()
  })
  test('moved on the first day, the student was never in the first section', () =>
    expect(moveFrom(A, 'b', '2026-09-07')).toEqual([{ sectionId: 'b', from: '2026-09-07', to: null }]))
  test('what cannot be is refused with a sentence', () => {
    expect(() => moveFrom(A, 'a', '2026-10-12')).toThrow('in this section already')
    expect(() => moveFrom(A, 'b', '2026-08-01')).toThrow('Give a day from 7 Sep 2026 on')
    expect(() => moveFrom(A, null, '2026-09-07')).toThrow('would never have been here')
    expect(() => checkStays([{ sectionId: 'a', from: '2026-09-07', to: '2026-09-01' }])).toThrow(StayError)
    expect(() => checkStays([...A, { sectionId: 'b', from: '2026-10-01', to: null }])).toThrow('lasts until now')
    expect(() => checkStays([])).toThrow(StayError)
  })
  test('any row of moves leaves stays that hold together', () =>
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c', null), day), { maxLength: 8 }), (moves) => {
        let stays = [...A] as ReturnType<typeof moveFrom>
        for (const [section, from] of moves)
          try {
            stays = moveFrom(stays, section, from)
            expect(currentSection(stays)).toBe(section)
          } catch (e) {
            expect(e).toBeInstanceOf(StayError)
          }
        expect(() => checkStays(stays)).not.toThrow()
      }),
    ))
})

describe('what applies to who moved', () => {
  const placements = [
    { assessmentId: 'early', sectionId: 'a', due: '2026-09-20' },
    { assessmentId: 'early', sectionId: 'b', due: '2026-09-21' },
    { assessmentId: 'only a', sectionId: 'a', due: '2026-09-25' },
    { assessmentId: 'only b', sectionId: 'b', due: '2026-09-25' },
    { assessmentId: 'slips', sectionId: 'a', due: '2026-11-20' },
    { assessmentId: 'slips', sectionId: 'b', due: '2026-09-30' },
    { assessmentId: 'later a', sectionId: 'a', due: '2026-11-25' },
    { assessmentId: 'open b', sectionId: 'b', due: null },
  ]
  const students = [
    { id: 'x', sectionId: 'b' },
    { id: 'y', sectionId: 'b' },
  ]
  const stays = { x: moveFrom([{ sectionId: 'a', from: '2026-09-07', to: null }], 'b', '2026-10-12') }
  test('the section at the due date decides, and nobody slips between two dates', () => {
    const own = applyingExceptions({ students, placements, stays, leftOut: {} }).get('x')!
    // Each with the day that holds for them: that of the section they were in on it.
    expect(Object.fromEntries(own)).toEqual({ early: '2026-09-20', 'only a': '2026-09-25', 'open b': null, slips: '2026-09-30' })
    const { isSet, dueOf } = setFor({ placements, exceptions: { x: Object.fromEntries(own) } })
    const [x, y] = students
    expect([dueOf(x!, 'early'), dueOf(y!, 'early'), isSet(x!, 'later a'), isSet(y!, 'only b')]).toEqual([
      '2026-09-20',
      '2026-09-21',
      false,
      true,
    ])
  })
  test('who is left out of something differs by that alone', () => {
    const exceptions = applyingExceptions({ students, placements, stays: {}, leftOut: { early: ['y'] } })
    expect([...exceptions.keys()]).toEqual(['y'])
    expect([...exceptions.get('y')!.keys()].sort()).toEqual(['only b', 'open b', 'slips'])
  })
})

describe('laying out days', () => {
  const sections = [
    { id: 'a', weekdays: [1, 3], firstDay: '2026-09-07', due: null },
    { id: 'b', weekdays: [2], firstDay: '2026-10-20', due: '2026-10-27' },
    { id: 'c', weekdays: [], firstDay: null, due: null },
  ]
  test('each section’s first meeting on or after a day', () =>
    expect(Object.fromEntries(layOut({ kind: 'first meeting', onOrAfter: '2026-10-10' }, sections, TERM).days)).toEqual({
      a: '2026-10-12',
      b: '2026-10-20',
      c: '2026-10-12',
    }))
  test('a week or a day leaves out who has not started, and says so', () => {
    const week = layOut({ kind: 'week', week: 6 }, sections, TERM)
    expect(Object.fromEntries(week.days)).toEqual({ a: '2026-10-12', c: '2026-10-12' })
    expect(week.notStarted).toEqual(['b'])
    expect(layOut({ kind: 'day', day: '2026-10-15' }, sections, TERM).notStarted).toEqual(['b'])
  })
  test('a shift moves what has a day', () =>
    expect([...layOut({ kind: 'shift', days: -7 }, sections, TERM).days]).toEqual([['b', '2026-10-20']]))
})

test.each([
  ['2026-10-12', '2026-10-12'],
  ['12 Oct', '2026-10-12'],
  ['mon 12 october', '2026-10-12'],
  ['12.10.', '2026-10-12'],
  ['12/10', '2026-10-12'],
  ['12/10/2027', '2027-10-12'],
  ['6 Jan', '2027-01-06'],
  ['Oct 12', '2026-10-12'],
])('%s is a day', (text, expected) => expect(readDay(text, TERM)).toEqual({ kind: 'day', day: expected }))
test('a week, and what is neither', () => {
  expect(readDay('w6', TERM)).toEqual({ kind: 'week', week: 6 })
  expect(readDay('week 15', TERM)).toEqual({ kind: 'week', week: 15 })
  expect(readDay('w16', TERM)).toBe('The term has weeks 1 to 15.')
  expect(readDay('31 Feb', TERM)).toMatch(/is not a day: write 12 Oct/)
  expect(readDay('soon', TERM)).toMatch(/^“soon” is not a day/)
})

test('release rules', () => {
  const at = { today: '2026-10-15', due: '2026-10-12', confirmed: false }
  expect(isReleased({ kind: 'at once' }, at)).toBe(true)
  expect(isReleased({ kind: 'on', day: '2026-10-15' }, at)).toBe(true)
  expect(isReleased({ kind: 'on', day: '2026-10-16' }, at)).toBe(false)
  expect(isReleased({ kind: 'days', days: 3 }, at)).toBe(true)
  expect(isReleased({ kind: 'days', days: 4 }, at)).toBe(false)
  expect(isReleased({ kind: 'days', days: -3 }, { ...at, due: null })).toBe(false)
  expect(isReleased({ kind: 'confirmed' }, at)).toBe(false)
  expect(isReleased({ kind: 'confirmed' }, { ...at, confirmed: true })).toBe(true)
  expect(isReleased({ kind: 'by hand', released: false }, { ...at, confirmed: true })).toBe(false)
})

test('next year’s days fall on meetings in the same teaching week where there is one', () => {
  const section = { weekdays: [2, 4], firstDay: null }
  expect(movedDue('2026-10-13', TERM, NEXT, section)).toBe('2027-10-12')
  expect(movedDue('2026-10-12', TERM, NEXT, section)).toBe('2027-10-12')
  expect(movedFirstDay('2026-09-08', TERM, NEXT, [2, 4])).toBe('2027-09-07')
  expect(movedFirstDay('2026-09-07', TERM, { firstDay: '2027-09-08', lastDay: '2027-12-17' }, [1])).toBe('2027-09-13')
})
