import { mapOfFile } from './map-of-file'

test('a map comes as the fewest points that say the same', () => {
  const rows = Array.from({ length: 21 }, (_, i) => `${i},${i < 10 ? i * 1.5 : 15 + (i - 10) * 0.5}`)
  expect(mapOfFile(['mark,becomes', ...rows].join('\n'), 20)).toEqual({
    points: [
      [0, 0],
      [10, 15],
      [20, 20],
    ],
    problem: null,
  })
})

test.each([
  ['mark,becomes\n3,x\n4,5', /Line 2: a mark and what it becomes/],
  ['mark,becomes\n3,4\n3,5', /Line 3: 3 is not above/],
  ['mark,becomes\n3,4\n5,2', /Line 3: a higher mark would become a lower one/],
  ['mark,becomes\n3,4', /two lines or more/],
  ['mark,becomes\n3,4\n50,60', /go up to 50, and these are out of 20/],
  ['', /The file is empty/],
])('%j is refused with where and what to do', (text, words) => {
  expect(mapOfFile(text, 20)).toMatchObject({ points: null, problem: expect.stringMatching(words) as string })
})

test('a map that bends more often than a curve can is not taken', () => {
  const rows = Array.from({ length: 60 }, (_, i) => `${i},${i + (i % 2) / 2}`)
  expect(mapOfFile(['mark,becomes', ...rows].join('\n'), 100).problem).toMatch(/bends \d+ times; 50 points is the most/)
})
