import { headingOf, readMarksFile } from './marks-file'
import { writeDelimited } from './write-delimited'

test.each(['Name', 'assessment', 'Candidate', 'as of', 'Mark', 'mark of Mark', 'Days late', '=SUM(A1)', 'Essay, “part 1”', ' x\ty'.trim()])(
  'an assessment titled %s is read back as what it is',
  (title) => {
    const text = writeDelimited([
      ['candidate', 'name', 'section', headingOf(title), 'as of'],
      ['0412', '-Ada', 'East', '17.5', '2026-11-28T10:00:00.000Z'],
    ])
    expect(readMarksFile(text)).toMatchObject({
      faults: [],
      marks: [{ line: 2, candidate: '0412', assessment: title, text: '17.5', asOf: '2026-11-28T10:00:00.000Z' }],
    })
  },
)

test('the whole sheet of a large course comes back as it went out', () => {
  const [students, works] = [12_000, 60]
  const heading = ['candidate', 'name', ...Array.from({ length: works }, (_, i) => `Work ${i + 1}`)]
  const rows = Array.from({ length: students }, (_, r) => [
    `214-${r}`,
    `Person ${r}`,
    ...Array.from({ length: works }, (_, c) => (r * 7 + c) % 80),
  ])
  const { marks, faults } = readMarksFile(writeDelimited([heading, ...rows]))
  expect([marks.length, faults.length]).toEqual([students * works, 0])
})
