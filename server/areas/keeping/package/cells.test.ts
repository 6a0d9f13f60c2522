import fc from 'fast-check'
import { fromCell, hashIn, partsOf, toCell } from './cells'

test('any text, number and bytes come back as they were', () => {
  const text = { name: 'a', type: 'TEXT', required: false } as const
  fc.assert(
    fc.property(
      fc.oneof(fc.string({ unit: 'binary' }), fc.stringMatching(/^\\*N$/), fc.stringMatching(/^'*[=+@-]a$/)),
      (s) => fromCell(toCell(s), text) === s,
    ),
  )
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (x) =>
      Object.is(fromCell(toCell(x), { ...text, type: 'REAL' }) as number, x === 0 ? 0 : x),
    ),
  )
  fc.assert(
    fc.property(
      fc.uint8Array(),
      (b) => Buffer.compare(fromCell(toCell(Buffer.from(b)), { ...text, type: 'BLOB' }) as Buffer, Buffer.from(b)) === 0,
    ),
  )
  for (const like of ['\\N', '\\\\N', `\\L${'a'.repeat(64)}`])
    expect([fromCell(toCell(like), text), hashIn(toCell(like))]).toEqual([like, null])
  const emoji = `x${'\u{1F33F}'.repeat(60_000)}`
  expect(partsOf(emoji).map((p) => [p.length <= 100_000, !/[\uD800-\uDBFF]$/.test(p)])).toEqual([[true, true], [true, true]]) // prettier-ignore
  expect(partsOf(emoji).join('')).toBe(emoji)
  expect(fromCell(toCell(null), text)).toBeNull()
})
