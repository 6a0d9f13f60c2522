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
