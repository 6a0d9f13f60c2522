import { screen, waitFor } from '@testing-library/react'
import { routes, type CoursePerson, type Plan, type Sharing } from '#contract'
import { self } from '../../../testing/data'
import { inPage, serverAnswers } from '../../../testing/in-page'
import { PeopleHere } from './PeopleHere'

let mayDecide = true
jest.mock('../../../course/trial', () => ({ useTrial: () => ({ courseId: 'c', mayDecide }) }))

const person = (id: string, name: string, more: Partial<CoursePerson> = {}): CoursePerson => ({
  id,
  name,
  signIn: id,
  role: 'marker',
  state: 'in',
  teaches: [],
  toRead: 0,
  ...more,
})
const HERE = [
  person('mo', 'Mo Lund', { role: 'lead' }),
  person('ny', 'Ny Asplund', { teaches: ['East'] }),
  person('pia', 'Pia Brook', { toRead: 12 }),
]

const SHARED: Sharing = {
  assessment: {
    id: 'talk',
    title: 'Talk',
    marking: 'rubric',
    readingsWanted: 1,
    version: 1,
    blind: false,
    sees: { marks: false, comments: false, notes: false },
  },
  scripts: 0,
  short: 0,
  withdrawn: 0,
  usualZone: 1,
  loads: [],
  groups: [],
  latest: null,
  rule: null,
}

function here() {
  const server = serverAnswers([
    [routes.coursePeople, () => HERE],
    [routes.setRole, () => HERE],
    [routes.takeRole, () => HERE],
    [
      routes.tryHandOver,
      () => ({
        assessments: [
          {
            id: 'talk',
            title: 'Talk',
            scripts: 12,
            begun: 2,
            to: [
              { name: 'Ny Asplund', scripts: 7 },
              { name: 'Tor Wend', scripts: 5 },
            ],
          },
        ],
        why: null,
      }),
    ],
    [routes.handOver, () => [{ assessmentId: 'talk', sharingId: 4 }]],
    [routes.takeBackSharing, () => SHARED],
    [routes.findPeople, (_, address) => (address.endsWith('/qu') ? [{ id: 'quin', name: 'Quin Hart', signIn: 'quin' }] : [])],
    [
      routes.tryCoursePeople,
      () => [
        { line: 1, text: 'quin', person: { id: 'quin', name: 'Quin Hart', signIn: 'quin' }, why: null },
        { line: 2, text: 'nobody', person: null, why: 'Nobody here has that name.' },
      ],
    ],
    [
      routes.studentAccess,
      () => [
        { studentId: 's1', name: 'Ada', state: 'none', signIn: 'ada' },
        { studentId: 's2', name: 'Bo', state: 'none', signIn: null },
        { studentId: 's3', name: 'Cy', state: 'in', signIn: 'cy' },
      ],
    ],
    [routes.giveStudentsAccess, () => ({ invited: 1, known: 0, sent: 1 })],
  ])
  const me = { ...self('mo', 'Mo Lund'), admin: false, look: null }
  const plan = { head: { id: 'c' }, assessments: [{ id: 'a', counts: true }] } as unknown as Plan
  const page = inPage(<PeopleHere plan={plan} nav={null} />, {
    known: [
      [['me'], me],
      [['courses'], []],
    ],
  })
  return { server, ...page }
}
beforeEach(() => (mayDecide = true))

test('a part is given to who is found, and undone', async () => {
  const { user, server } = here()
  await user.click(await screen.findByRole('button', { name: 'external' }))
  await user.type(screen.getByLabelText('Find somebody to be external'), 'qu')
  await user.click(await screen.findByRole('button', { name: 'Quin Hart' }))
  await waitFor(() =>
    expect(server.sent[0]).toMatchObject({ method: 'PUT', address: '/api/courses/c/people/quin', body: { role: 'external' } }),
  )
  await user.click(await screen.findByRole('button', { name: 'Undo: Quin Hart: external' }))
  await waitFor(() => expect(server.sent[1]).toMatchObject({ method: 'DELETE', address: '/api/courses/c/people/quin' }))
})

test('Enter pressed before the answer came gives the part to who is found then', async () => {
  const { user, server } = here()
  await user.type(await screen.findByLabelText('Find somebody to be marker'), 'qu{Enter}')
  await waitFor(() => expect(server.sent[0]).toMatchObject({ method: 'PUT', address: '/api/courses/c/people/quin' }))
})

test('of pasted lines only those who are meant get a part, and the others are named with the reason', async () => {
  const { user, server } = here()
  await user.type(await screen.findByLabelText(/^Or several/), 'quin{Enter}nobody')
  await user.click(screen.getByRole('button', { name: 'Try it' }))
  expect(await screen.findByText('nobody: Nobody here has that name.')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: '1 person: marker' }))
  await waitFor(() => expect(server.sent.filter((s) => s.method === 'PUT')).toHaveLength(1))
})

test('who has scripts to read hands them over in the same step, seen before; else it is said what taking it away does', async () => {
  const { user, server } = here()
  await user.click(await screen.findByRole('button', { name: 'Take the part of Pia Brook away' }))
  expect(await screen.findByText(/^Talk: Ny Asplund 7, Tor Wend 5/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Hand them over, and take it away' }))
  await waitFor(() =>
    expect(server.sent.map((s) => [s.method, s.address.split('/people')[1]])).toEqual([
      ['POST', '/pia/hand-over'],
      ['DELETE', '/pia'],
    ]),
  )
  await user.click(screen.getByRole('button', { name: 'Undo: Pia Brook has no part here' }))
  await waitFor(() => expect(server.sent.at(-1)).toMatchObject({ method: 'DELETE', address: '/api/courses/c/assessments/talk/sharing/4' }))
  server.sent.length = 0
  await user.click(screen.getByRole('button', { name: 'Take the part of Ny Asplund away' }))
  expect(screen.getByText(/East has no teacher/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Take it away' }))
  await waitFor(() => expect(server.sent[0]).toMatchObject({ method: 'DELETE', address: '/api/courses/c/people/ny' }))
})

test('students are let in once it was said what they will see, and those without a sign-in are counted', async () => {
  const { user, server } = here()
  expect(await screen.findByText(/1 of 3 students came in/)).toBeTruthy()
  expect(screen.getByText(/1 student has neither sign-in/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Let 1 student in…' }))
  expect(server.sent).toEqual([])
  await user.click(screen.getByRole('button', { name: 'Let them in' }))
  expect(await screen.findByText('1 student invited, 1 by post.')).toBeTruthy()
  expect(server.sent[0]!.body).toEqual({ studentIds: ['s1'] })
})

test('an external sees who is who, and can change nothing', async () => {
  mayDecide = false
  here()
  expect(((await screen.findByLabelText('Part of Ny Asplund')) as HTMLSelectElement).disabled).toBe(true)
  expect(screen.queryByRole('button', { name: /^Take the part/ })).toBeNull()
  expect(screen.queryByLabelText(/^Find somebody/)).toBeNull()
})
