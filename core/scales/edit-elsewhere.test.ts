import { editElsewhere, type EditedEntry } from './edit-elsewhere'

const use = (course: string, assessment: string, standardId = 'r2') => ({ courseId: course, course, assessment, standardId })
const entry = (with_: Partial<EditedEntry>): EditedEntry => ({ id: 'r2', kind: 'rubric', version: 2, read: false, uses: [], ...with_ })

test('nothing is said where one’s own course alone uses it, or others an earlier version that stays', () => {
  expect(editElsewhere(entry({ uses: [use('here', 'Map')] }), 'here')).toBeNull()
  expect(editElsewhere(entry({ uses: [use('there', 'Map', 'r1')] }), 'here')).toBeNull()
})

test('a version that nobody has marked by changes in the other courses too; one that was marked by makes the next, and they stay', () => {
  const uses = [use('here', 'Map'), use('there', 'Sketch'), use('then', 'Plan', 'r1')]
  expect(editElsewhere(entry({ uses }), 'here')).toBe('Other courses use this version too, and change with each edit: Sketch (there).')
  expect(editElsewhere(entry({ uses, read: true }), 'here')).toBe(
    'An edit makes version 3. Other courses stay with the version that they use until they take the new one: Sketch (there), Plan (then).',
  )
})

test('an outcome has no versions: where students of the other courses stand follows, each course named once, three at most', () => {
  const uses = ['a', 'b', 'b', 'c', 'd', 'e'].map((c) => use(c, 'Map', 'o'))
  expect(editElsewhere(entry({ id: 'o', kind: 'outcome', uses }), 'a')).toMatch(
    /^Other courses use it too: b, c, d and 1 more\. Where their students/,
  )
})
