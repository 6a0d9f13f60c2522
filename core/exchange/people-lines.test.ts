import { readPeople } from './people-lines'

const people = (text: string) => readPeople(text).map((l) => ('person' in l ? l.person : l.why))
const ana = { name: 'Ana Torvik', signIn: 'ana.torvik', email: 'ana@vale.example', externalId: null }

test.each([
  ['Ana Torvik, ana.torvik, ana@vale.example'],
  ['Ana Torvik\tana@vale.example\tana.torvik'],
  ['Ana Torvik <ana@vale.example>; ana.torvik'],
  ['\uFEFF"Ana Torvik",ana.torvik,ana@vale.example\r\n\r\n'],
  ['Sign-in,E-mail,Name\nana.torvik,ana@vale.example,Ana Torvik'],
])('%j names one person', (text) => expect(people(text)).toEqual([ana]))

test('where only a mail address is given, it is the sign-in; a number that a spreadsheet guarded is as it was', () => {
  expect(people('Ana Torvik <ana@vale.example>')).toEqual([{ ...ana, signIn: 'ana@vale.example' }])
  expect(people("name,username,id\nAna Torvik,ana.torvik,'-7")).toEqual([{ ...ana, email: null, externalId: '-7' }])
})

test('users of a roster: names are put together, who is not active or a student is named and left', () => {
  const text = [
    'sourcedId,status,dateLastModified,enabledUser,username,givenName,familyName,email,role',
    'u1,active,2026-09-01,true,ana.torvik,Ana,Torvik,ana@vale.example,teacher',
    'u2,active,2026-09-01,false,bo,Bo,Reyes,bo@vale.example,teacher',
    'u3,active,2026-09-01,true,cy,Cy,Lund,cy@vale.example,student',
  ].join('\n')
  expect(people(text)).toEqual([
    { ...ana, externalId: 'u1' },
    expect.stringMatching(/^Not an active user/),
    expect.stringMatching(/^A student/),
  ])
})

test.each([
  ['Ana Torvik', /Only one thing stands here/],
  ['Ana, ana, ana@vale.example, more', /More stands here/],
  ['Ana, ana, ana@vale', /“ana@vale” is no mail address/],
  ['Ana, ana torvik', /“ana torvik” cannot be a sign-in/],
  ['"Ana, ana', /quotation mark/],
  ['Name,Sign-in\n,ana', /name is missing/],
  ['Name,Sign-in\nAna,', /Neither a sign-in nor/],
  ['Ana\u202E, ana', /hidden characters/],
])('%j is refused in words', (text, why) => expect(people(text)).toEqual([expect.stringMatching(why)]))

test('lines keep their numbers, and of a list without end 5000 people come in', () => {
  expect(readPeople('Ana, ana\n\nBo').map((l) => l.line)).toEqual([1, 3])
  const many = readPeople(Array.from({ length: 5002 }, (_, i) => `P ${i}, p${i}`).join('\n'))
  expect([many.length, many.at(-1)]).toEqual([5001, { line: 5001, why: expect.stringMatching(/At most 5000/) }])
})

test.each([
  ['sep=;\nName;Sign-in;E-mail\nAna Torvik;ana.torvik;ana@vale.example'],
  ['"Torvik, Ana";ana.torvik;ana@vale.example'],
  ['Torvik, Ana; ana.torvik; ana@vale.example'],
  ['Torvik, Ana, ana.torvik, ana@vale.example'],
  ['Ana\u00A0 Torvik, ana.torvik, ana@vale.example'],
  ['Name;Sign-in;E-mail\nTorvik, Ana;ana.torvik;ana@vale.example'],
])('%j names one person, whichever part of the name comes first', (text) => expect(people(text)).toEqual([ana]))

test.each([
  ['Dr. Ana Torvik, ana.torvik, ana@vale.example'],
  ['Dr., Ana Torvik, ana.torvik, ana@vale.example'],
  ['Dr., Torvik, Ana, ana.torvik, ana@vale.example'],
  ['Title,Given name,Family name,Username,Email\nDr.,Ana,Torvik,ana.torvik,ana@vale.example'],
])('%j names her with her title', (text) => expect(people(text)).toEqual([{ ...ana, name: 'Dr. Ana Torvik' }]))
