import { whyNotCodeName, type KnownBy } from './own-code-name'

const SELF: KnownBy = { name: 'Maro Quillen', candidate: '214-077', externalId: 'S-90017', signIn: 'm.quillen@ovi.example' }
const OTHER: KnownBy = { name: 'Ilse Brandt', candidate: '214-078', externalId: null, signIn: 'ibrandt' }
/** A few of the letters that look alike, as Unicode lists them. */
const ALIKE: Record<string, string> = { о: 'o', а: 'a', '\u200b': '', і: 'i' }
const skeleton = (text: string) => [...text].map((c) => ALIKE[c] ?? c).join('')
const why = (name: string, taken: string[] = []) => whyNotCodeName(name, SELF, [OTHER], taken, skeleton)

test.each([
  'Quillen',
  'quillén',
  'Quillens',
  'Qillen',
  'big quillen',
  'MaroQuillen',
  'xQuillenx',
  'Mаrо',
  'Ma\u200bro',
  '214-077',
  '214077',
  'S90017',
  'm.quillen',
])('%s tells who one is', (name) => expect(why(name)).toMatch(/^That tells who you are/))

test.each(['Ilse', 'brandt', 'Іlse Brandt', '214 078', 'ibrandt'])('%s is somebody else’s name or number', (name) =>
  expect(why(name)).toMatch(/name or number of somebody/),
)

test('a thing is taken once, also where it only looks the same', () => {
  expect(why('wren')).toBeNull()
  expect(why('Wr\u200ben', ['wren'])).toMatch(/^Somebody in this course is called wren already/)
  expect(why('…')).toMatch(/no letter or digit/)
})
