import { orderRows, type OrderedRow } from './order-rows'

const rows: OrderedRow[] = [
  { name: 'Sextant', lean: 5, interval: [3, 7] },
  { name: 'Alidade', lean: -1, interval: [-5, 3] },
  { name: 'Octant', lean: null, interval: null },
]
const names = (order: Parameters<typeof orderRows>[2], wanted = '') => orderRows(rows, (r) => r, order, wanted).map((r) => r.name)

test.each([
  ['plan', ['Sextant', 'Alidade', 'Octant']],
  ['lean', ['Sextant', 'Alidade', 'Octant']],
  ['name', ['Alidade', 'Octant', 'Sextant']],
  // Of whom nothing can be told there is most doubt.
  ['doubt', ['Octant', 'Alidade', 'Sextant']],
] as const)('%s', (order, expected) => expect(names(order)).toEqual(expected))

test('rows are found by any part of their names, however it is written', () =>
  expect(names('plan', ' TANT ')).toEqual(['Sextant', 'Octant']))
