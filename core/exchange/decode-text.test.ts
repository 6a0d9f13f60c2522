import { readRoll } from './read-roll'
import { decodeText, decodeUnicode } from './decode-text'

const bytes = (...of: (string | number)[]) =>
  new Uint8Array(of.flatMap((x) => (typeof x === 'number' ? [x] : [...new TextEncoder().encode(x)])))

test('Unicode is what it says it is; anything else is a guess, which is told', () => {
  expect(decodeText(bytes('Jörg, Łucja'))).toEqual({ text: 'Jörg, Łucja', encoding: null })
  expect(decodeText(new Uint8Array([0xff, 0xfe, 0x41, 0x01]))).toEqual({ text: 'Ł', encoding: null })
  // What Windows-1252 has, by the letters of its table.
  expect(decodeText(bytes('J', 0xf6, 'rg O', 0x92, 'Neil'))).toEqual({ text: 'Jörg O’Neil', encoding: 'windows-1252' })
  // A byte that stands for nothing there is a letter in Windows-1250.
  expect(decodeText(bytes(0x8d, 'ubo', 0x9a))).toEqual({ text: 'Ťuboš', encoding: 'windows-1250' })
})

test('who chooses is heard, also where the bytes could be Unicode', () => {
  const file = bytes('J', 0x9a, 'rg')
  expect(decodeText(file, 'macintosh')).toEqual({ text: 'Jörg', encoding: 'macintosh' })
  expect(decodeText(bytes('Jorg'), 'windows-1251')).toEqual({ text: 'Jorg', encoding: 'windows-1251' })
  expect(() => decodeText(file, 'utf-8')).toThrow('Some letters cannot be read as UTF-8')
  expect(() => decodeUnicode(file)).toThrow('save the file as CSV in UTF-8')
})

test('a roll is read by it, and says by which', async () => {
  const file = bytes('candidate,name,section\n3901,J', 0xf6, 'rg Alda,A\n')
  expect(await readRoll(file)).toMatchObject({ encoding: 'windows-1252', entries: [{ name: 'Jörg Alda' }], faults: [] })
  expect(await readRoll(file, { encoding: 'windows-1251' })).toMatchObject({ encoding: 'windows-1251', entries: [{ name: 'Jцrg Alda' }] })
  expect((await readRoll(bytes('candidate,name,section\n3901,Jörg,A\n'))).encoding).toBeNull()
})
