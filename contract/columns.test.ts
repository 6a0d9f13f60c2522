import fc from 'fast-check'
import { packColumn, packFew, unpackColumn, unpackFew } from './columns'
import { packTable, unpackTable } from './table-in-columns'

const RANGES = { u8: [0, 255], u16: [0, 65_535], i32: [-(2 ** 31), 2 ** 31 - 1] } as const

test('a column of whole numbers comes out as it went in', () =>
  fc.assert(
    fc.property(fc.constantFrom('u8', 'u16', 'i32'), fc.array(fc.nat()), (kind, raw) => {
      const [low, high] = RANGES[kind]
      const values = raw.map((x) => low + (x % (high - low + 1)))
      expect([...unpackColumn(kind, packColumn(kind, values))]).toEqual(values)
    }),
  ))

test('a column of doubles comes out bit for bit; nothing is NaN', () =>
  fc.assert(
    fc.property(fc.array(fc.option(fc.double({ noNaN: true }))), (values) => {
      const out = [...unpackColumn('f64', packColumn('f64', values))]
      expect(out.map((x) => (Number.isNaN(x) ? null : x))).toEqual(values)
    }),
  ))

test('a column that was cut off is refused', () => {
  expect(() => unpackColumn('f64', packColumn('u8', [1, 2, 3]))).toThrow('cut off')
})

test('numbers of which many are alike come out as they went in, nothing among them, however many differ', () => {
  const number = fc.oneof(
    fc.constantFrom(0, 2.5, 8, NaN),
    fc.double().map((x) => x + 0),
  )
  fc.assert(
    fc.property(fc.array(number, { maxLength: 400 }), (numbers) => expect([...unpackFew('f64', packFew(numbers))]).toEqual(numbers)),
  )
  for (const differ of [256, 257]) {
    const numbers = Array.from({ length: 600 }, (_, i) => (i % differ) / 4)
    expect(packFew(numbers).places === null).toBe(differ > 256)
    expect([...unpackFew('f64', packFew(numbers))]).toEqual(numbers)
  }
})

test('numbers at places where there are none are refused', () => {
  expect(() => unpackFew('f64', { values: packColumn('f64', [1]), places: packColumn('u8', [0, 1]) })).toThrow(
    'a place that no number is at',
  )
})

test('a table comes out of its columns as it went in, ids of scripts that are not the usual ones with it', () => {
  const rest = { students: [{ id: 'x' }, { id: 'y' }], assessments: [{ id: 'a' }], version: 3 }
  const table = {
    ...rest,
    scripts: {
      id: ['a:x', 'own'],
      student: [0, 1],
      assessment: [0, 0],
      status: [0, 2],
      daysLate: [0, 4],
      entered: [7.25, null],
      version: [1, 2],
    },
    readings: { script: [1, 1], marker: [0, 3], mark: [12, 13.5] },
  } as unknown as Parameters<typeof packTable>[0]
  const { scripts, readings, ...others } = unpackTable(packTable(table))
  expect(others).toEqual(rest)
  expect(scripts.id).toEqual({ 1: 'own' })
  expect([...(scripts.student as Int32Array)]).toEqual([0, 1])
  expect([...(scripts.status as Uint8Array)]).toEqual([0, 2])
  expect([...(scripts.daysLate as Uint16Array)]).toEqual([0, 4])
  expect([...(scripts.entered as Float64Array)]).toEqual([7.25, NaN])
  expect([...(readings.mark as Float64Array)]).toEqual([12, 13.5])
})
