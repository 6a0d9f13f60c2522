import { ROLES, sightOf, type Sight } from './sight'

const EVERYTHING: Partial<Record<keyof Sight, unknown>> = {
  students: 'all',
  names: 'always',
  readings: 'all',
  letters: 'all',
  types: 'all',
}
const mayMore = (sight: Sight) =>
  Object.entries(sight)
    .filter(([k, v]) => v === true || v === EVERYTHING[k as keyof Sight])
    .map(([k]) => k)

test.each(['registrar', '', null, 'Lead', 'constructor', '__proto__'])(
  'a role that is not in the table (%s) sees and does nothing',
  (role) => {
    expect(mayMore(sightOf(role))).toEqual([])
    expect(sightOf(role)).toMatchObject({ students: 'none', readings: 'none', letters: 'none', types: 'none' })
  },
)

test('who marks sees nobody’s readings but their own, no names unless the course says so, and no ids of the records office', () => {
  expect(sightOf('marker')).toMatchObject({
    readings: 'own',
    names: 'as the course says',
    externalIds: false,
    hidden: false,
    oversees: false,
  })
})

test('who oversees sees all; the lead alone decides and types', () => {
  expect(ROLES.filter((r) => sightOf(r).oversees)).toEqual(['lead', 'external'])
  expect(ROLES.filter((r) => sightOf(r).decides)).toEqual(['lead'])
  expect(ROLES.filter((r) => sightOf(r).types === 'all')).toEqual(['lead'])
})

test('each further part of the run sees no more than the one before it', () => {
  const counts = ROLES.map((r) => mayMore(sightOf(r)).length)
  expect([...counts].sort((a, b) => b - a)).toEqual(counts)
})
