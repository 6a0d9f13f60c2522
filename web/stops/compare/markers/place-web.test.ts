import { placeWeb } from './place-web'

const links = [
  { a: 'mo', b: 'ny', scripts: 20 },
  { a: 'ny', b: 'ob', scripts: 4 },
  { a: 'pa', b: 'qi', scripts: 9 },
]
const groups = [
  ['mo', 'ny', 'ob'],
  ['pa', 'qi'],
]
const at = () => new Map(placeWeb(groups, links, 350, 300).map((p) => [p.id, p]))

test('everybody has a place inside the drawing, the same every time', () => {
  const places = at()
  expect([...places.keys()]).toEqual(['mo', 'ny', 'ob', 'pa', 'qi'])
  for (const { x, y } of places.values()) expect(x > 0 && x < 350 && y > 0 && y < 300).toBe(true)
  expect(at()).toEqual(places)
})

test('a group apart stands below the line that parts it from the others', () => {
  const places = at()
  for (const id of groups[0]!) expect(places.get(id)!.y).toBeLessThan(230)
  for (const id of groups[1]!) expect(places.get(id)!.y).toBeGreaterThan(230)
})
