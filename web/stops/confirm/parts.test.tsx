import { screen, waitFor, within } from '@testing-library/react'
import { MAKING_STEPS, routes, type IssueHead, type RecordsState, type Signers } from '#contract'
import { makingKey } from '../../course/events'
import { today } from '../../parts/format'
import { courseHead } from '../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../testing/in-page'
import { smallTable } from '../../testing/small-course'
import { smallTrial } from '../../testing/small-trial'
import Confirm from './Confirm'

jest.mock(
  '../../course/course',
  () => jest.requireActual<typeof import('../../testing/small-trial')>('../../testing/small-trial').inItsPlace,
)

const MARKED = ['ada', 'bo', 'cy', 'di'].flatMap((s) => [[s, 'paper', 30] as const, [s, 'essay', 15] as const])
const table = (more: Parameters<typeof courseHead>[1] = {}, role: Parameters<typeof courseHead>[0] = 'lead') =>
  smallTable(
    MARKED.map((m) => [...m]),
    [],
    { head: courseHead(role, more), boundaries: smallTable([]).boundaries.toSorted((a, b) => b.from - a.from) },
  )

const signature = (by: string, role: string): IssueHead['signatures'][number] => ({
  by,
  role,
  at: '2026-12-20T10:00:00.000Z',
  statement: 'moderated',
  hash: 'a1b2c3d4',
})
const issue = (number: number, more: Partial<IssueHead> = {}): IssueHead => ({
  number,
  hash: `${number}a1b2c3d4e5f6a7b8c9d0`,
  at: '2026-12-20T10:00:00.000Z',
  reopened: null,
  boundaries: [],
  counts: [],
  ungraded: 0,
  objections: [],
  waitsFor: [],
  counted: true,
  inForce: true,
  signatures: [signature('Ines Valdry', 'lead'), signature('Tamsin Oyelaran-Holt', 'external')],
  ...more,
})

let issues: IssueHead[] = []
let signers: Signers = ['lead', 'external']
let records: RecordsState = { list: [], taken: 0, refused: [], waiting: 0, ungraded: 0 }
let releases: { sectionId: string; onDay: string | null }[] = []
beforeEach(() => {
  issues = [issue(1)]
  signers = ['lead', 'external']
  records = { list: [], taken: 0, refused: [], waiting: 0, ungraded: 0 }
  releases = [
    { sectionId: 'east', onDay: null },
    { sectionId: 'west', onDay: null },
  ]
})
function show(part: string, t = table({ confirmedIssue: 1 })) {
  smallTrial(t)
  const server = serverAnswers([
    [routes.issues, () => issues],
    [routes.furtherReadings, () => []],
    [routes.signing, () => ({ signers })],
    [routes.setSigning, (body: { signers: Signers }) => ({ signers: (signers = body.signers) })],
    [routes.recordsState, () => records],
    [routes.record, () => []],
    [routes.standIns, () => ({ now: [], list: [] })],
    [routes.releases, () => releases],
    [
      routes.release,
      (body: { sectionIds: string[]; onDay: string | null }) =>
        (releases = releases.map((r) => (body.sectionIds.includes(r.sectionId) ? { ...r, onDay: body.onDay } : r))),
    ],
  ])
  return { server, ...inPage(<Confirm />, { address: `/courses/c/confirm?part=${part}` }) }
}

describe('to students', () => {
  const row = (section: string) => screen.getByRole('row', { name: new RegExp(section) })

  test('released to a section, it says so and cannot be taken back; the rest waits', async () => {
    const { user, server } = show('to students')
    await user.click(await screen.findByLabelText('Choose East'))
    await user.click(screen.getByRole('button', { name: 'Release to 1 section now' }))
    expect(await screen.findByText('Released to 1 section; their students get a letter.')).toBeTruthy()
    expect(server.sent).toEqual([expect.objectContaining({ body: { sectionIds: ['east'], onDay: today() } })])
    await waitFor(() => expect(within(row('East')).getByText(/^since /)).toBeTruthy())
    expect(screen.getByLabelText<HTMLInputElement>('Choose East').disabled).toBe(true)
    expect(within(row('West')).getByText('not yet')).toBeTruthy()
  })

  test('set for a day it can be put off again, and letters go out on that day', async () => {
    const { user } = show('to students')
    const day = await screen.findByLabelText('Release from')
    await user.type(day, '24 Dec 2026{Enter}')
    await user.click(screen.getByRole('button', { name: 'Release then' }))
    expect(await screen.findByText(/^To be seen in 2 sections from 24 Dec.*; their students get a letter on that day\.$/)).toBeTruthy()
    await user.click(await screen.findByRole('button', { name: 'Not yet after all' }))
    expect(await screen.findByText('Not released after all: 2 sections.')).toBeTruthy()
    expect(releases.map((r) => r.onDay)).toEqual([null, null])
  })

  test('while no issue is in force nothing can be released, and why is said', async () => {
    issues = [issue(1, { counted: false, inForce: false, waitsFor: ['external'] })]
    show('to students')
    expect(await screen.findByText(/^No issue is in force yet/)).toBeTruthy()
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Release to everyone now' }).disabled).toBe(true)
  })

  test('what the server refuses is said, and what was chosen stays', async () => {
    const { user, server } = show('to students')
    await user.click(await screen.findByLabelText('Choose West'))
    server.away = true
    await user.click(screen.getByRole('button', { name: 'Release to 1 section now' }))
    expect(await screen.findByRole('alert')).toBeTruthy()
    expect(screen.getByLabelText<HTMLInputElement>('Choose West').checked).toBe(true)
  })
})

const HAND_OVER = '00000000-0000-4000-8000-000000000001'
describe('to records', () => {
  const refused = [{ studentId: 'bo', number: '77', why: 'unknown number', grade: 'Pass', percent: 55 }]
  const sending = (more: Partial<RecordsState['list'][number]> = {}) => ({
    id: HAND_OVER,
    number: 1,
    by: 'Ines Valdry',
    at: '2026-12-21T10:00:00.000Z',
    sent: 4,
    receipt: 'R-1',
    refused: [{ studentId: 'bo', number: '77', why: 'unknown number' }],
    otherwise: [],
    ...more,
  })

  test('what was taken under a number that is not on the roll stands there, and is withdrawn on one press', async () => {
    records = {
      list: [sending({ refused: [], otherwise: [{ studentId: 'ada', number: '99' }] })],
      taken: 4,
      refused: [],
      waiting: 0,
      ungraded: 0,
    }
    const { user, server } = show('to records')
    server.answer(routes.withdrawFromRecords, () => {
      records = { ...records, list: [sending({ refused: [{ studentId: 'ada', number: '99', why: 'Withdrawn.' }] })], taken: 3 }
      return records.list[0]
    })
    await user.click(await screen.findByRole('button', { name: /^Withdraw the result of .* under 99$/ }))
    await waitFor(() => expect(screen.queryByRole('button', { name: /^Withdraw/ })).toBeNull())
    expect(server.sent.at(-1)!.body).toEqual({ studentId: 'ada' })
  })

  test('a number that is mended is sent alone, and nothing else', async () => {
    records = { list: [sending()], taken: 3, refused, waiting: 0, ungraded: 1 }
    const { user, server } = show('to records')
    server.answer(routes.sendToRecords, (body: { mended: unknown }) => {
      expect(body.mended).toEqual([{ studentId: 'bo', number: '4711' }])
      records = { ...records, taken: 4, refused: [] }
      return sending({ id: 'h2', sent: 1, refused: [] })
    })
    expect(await screen.findByText(/unknown number/)).toBeTruthy()
    expect(screen.getByText(/, 1 without a grade, which are not sent/)).toBeTruthy()
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Send what is mended' }).disabled).toBe(true)
    const field = screen.getByRole('textbox', { name: /^Number of / })
    await user.clear(field)
    await user.type(field, '4711{Enter}')
    await user.click(screen.getByRole('button', { name: 'Send the 1 mended' }))
    await waitFor(() => expect(screen.queryByText(/unknown number/)).toBeNull())
    expect(server.sent).toHaveLength(1)
  })

  test('where no answer came, the same is asked for again under its key, and nothing else can be sent', async () => {
    records = { list: [sending({ receipt: null, refused: [] })], taken: 0, refused: [], waiting: 4, ungraded: 0 }
    const { user, server } = show('to records')
    server.answer(routes.sendToRecords, (body: { key: string }) => {
      expect(body).toEqual({ key: HAND_OVER })
      records = { ...records, list: [sending({ refused: [] })], taken: 4, waiting: 0 }
      return sending({ refused: [] })
    })
    expect(await screen.findByText(/The office has not answered what Ines Valdry sent/)).toBeTruthy()
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Hand over 4 results' }).disabled).toBe(true)
    await user.click(screen.getByRole('button', { name: 'Ask again' }))
    await waitFor(() => expect(screen.queryByText(/has not answered/)).toBeNull())
    expect(screen.getByText(/receipt R-1: 4 taken/)).toBeTruthy()
  })

  test('an answer that is lost keeps its key: sent once more, the office knows it', async () => {
    records = { list: [], taken: 0, refused: [], waiting: 4, ungraded: 0 }
    const { user, server } = show('to records')
    const keys: string[] = []
    server.answer(routes.sendToRecords, (body: { key: string }) => {
      keys.push(body.key)
      return keys.length === 1 ? new Refuses(503, 'The records office did not answer.') : sending({ refused: [] })
    })
    await user.click(await screen.findByRole('button', { name: 'Hand over 4 results' }))
    expect((await screen.findByRole('alert')).textContent).toBe('The records office did not answer.')
    await user.click(await screen.findByRole('button', { name: 'Hand over 4 results' }))
    await waitFor(() => expect(keys).toHaveLength(2))
    expect(keys[0]).toBe(keys[1])
  })
})

describe('what differs', () => {
  const DIFFERS = {
    from: 1,
    to: 2,
    grades: 1,
    also: ['boundaries' as const],
    decided: [{ kind: 'bound', summary: 'Merit from 58', reason: 'the board', by: 'Ines Valdry', at: '2026-12-22T10:00:00.000Z' }],
    withdrawn: [],
    students: [
      {
        studentId: 'ada',
        candidate: '100',
        name: 'ada',
        is: 'in both' as const,
        was: { section: 'East', final: 58, rounded: 58, grade: 'Pass', adjusted: 58 },
        now: { section: 'East', final: 61, rounded: 61, grade: 'Merit', adjusted: 61 },
        marks: [
          {
            assessment: 'paper',
            was: { mark: 28, status: 'in' as const, daysLate: 0 },
            now: { mark: 30.5, status: 'late' as const, daysLate: 2 },
            by: [
              { who: 'Rune Daal', did: 'typed' as const, at: '2026-12-21T10:00:00.000Z' },
              { who: 'Ines Valdry', did: 'took back' as const, at: '2026-12-21T11:00:00.000Z' },
            ],
          },
        ],
      },
      {
        studentId: 'ex',
        candidate: '999',
        name: 'Ex Student',
        is: 'gone' as const,
        was: { section: 'West', final: 40, rounded: 40, grade: 'Pass', adjusted: 40 },
        now: null,
        marks: [],
      },
    ],
  }

  test('student by student: grade and percent before and after, the marks that did it and who wrote them', async () => {
    issues = [issue(2), issue(1, { inForce: false })]
    const asked: string[] = []
    const { server, user } = show('what differs', table({ confirmedIssue: 2 }))
    server.answer(routes.compareIssues, (_: unknown, address) => {
      asked.push(address)
      return DIFFERS
    })
    expect(await screen.findByText('2 students differ: 1 in grade, 1 no longer on the roll. Also different: boundaries.')).toBeTruthy()
    expect(screen.getByText('paper 28 → 30.5 late 2 (typed by Rune Daal, 21 Dec; settling taken back by Ines Valdry, 21 Dec)')).toBeTruthy()
    expect(screen.getByText('Merit from 58')).toBeTruthy()
    expect(asked.at(-1)).toMatch(/issues\/1\/against\/2$/)
    await user.selectOptions(screen.getByLabelText('To issue'), 'issue 1')
    await waitFor(() => expect(asked.at(-1)).toMatch(/issues\/1\/against\/1$/))
  })

  test('open again, the last issue stands beside what would be frozen now', async () => {
    issues = [issue(1, { reopened: { by: 'Ines Valdry', at: '2026-12-22T10:00:00.000Z', reason: 'an appeal' } })]
    const { server } = show('what differs', table({ confirmedIssue: null }))
    server.answer(routes.compareIssues, () => ({ ...DIFFERS, students: [], grades: 0, also: [], decided: [] }))
    expect(await screen.findByText('No result differs, and the same people are in both.')).toBeTruthy()
    expect(screen.getByLabelText<HTMLSelectElement>('To issue').value).toBe('now')
    expect(screen.getByText('Nothing was decided in between.')).toBeTruthy()
  })

  test('with nothing to compare it says what will stand here', async () => {
    issues = []
    show('what differs', table({ confirmedIssue: null }))
    expect(await screen.findByText(/^Nothing was confirmed yet/)).toBeTruthy()
  })
})

describe('signing', () => {
  const open = () => table({ confirmedIssue: null })

  test('who must sign is set, and is the one that stands', async () => {
    issues = []
    const { user } = show('sign', open())
    await user.selectOptions(await screen.findByLabelText('Who must sign'), 'two leads')
    await waitFor(() => expect(signers).toEqual(['lead', 'lead']))
    await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>('Who must sign').value).toBe('lead lead'))
  })

  test('while the issue is made, how far it is stands there and is spoken; what is refused is said and the words stay', async () => {
    issues = []
    const { user, server, queries } = show('sign', open())
    let refuse: () => void = () => undefined
    server.answer(
      routes.confirm,
      () => new Promise((done) => (refuse = () => done(new Refuses(409, 'Marks kept coming in while the results were made.')))),
    )
    await user.type(await screen.findByLabelText('I sign that'), 'all is moderated{Enter}')
    expect(await screen.findByText(`${MAKING_STEPS[0]}, 1 of ${MAKING_STEPS.length}`)).toBeTruthy()
    queries.setQueryData(makingKey('c'), MAKING_STEPS[3])
    expect((await screen.findByText(`${MAKING_STEPS[3]}, 4 of ${MAKING_STEPS.length}`)).getAttribute('role')).toBe('status')
    expect(screen.getByRole('progressbar', { name: 'Making the issue' })).toBeTruthy()
    refuse()
    expect((await screen.findByRole('alert')).textContent).toMatch(/^Marks kept coming in/)
    expect(screen.getByLabelText<HTMLInputElement>('I sign that').value).toBe('all is moderated')
    expect(screen.queryByRole('progressbar')).toBeNull()
  })

  test('an objection of one’s own can be taken back; others’ stand with who and why', async () => {
    const objection = (id: string, own: boolean) => ({
      id,
      by: own ? 'Ines Valdry' : 'Tamsin Oyelaran-Holt',
      role: own ? 'lead' : 'external',
      at: '2026-12-21T10:00:00.000Z',
      reason: own ? 'two marks are missing' : 'one section is not moderated',
      takenBack: null,
      own,
    })
    issues = [issue(1, { counted: false, inForce: false, objections: [objection('mine', true), objection('theirs', false)] })]
    const { user, server } = show('sign')
    server.answer(routes.takeBackObjection, () => issue(1))
    expect(await screen.findByText(/one section is not moderated/)).toBeTruthy()
    const [takeBack, ...more] = screen.getAllByRole('button', { name: 'Take it back' })
    expect(more).toEqual([])
    await user.click(takeBack!)
    await waitFor(() => expect(server.sent.map((s) => s.address)).toEqual([expect.stringMatching(/objections\/mine\/take-back$/)]))
  })
})

test('] walks from part to part, and the first comes after the last', async () => {
  const { user } = show('to records')
  expect(await screen.findByRole('heading', { name: 'Handing over to the records office' })).toBeTruthy()
  screen.getByRole('button', { name: 'report' }).focus()
  await user.keyboard(']')
  expect(screen.getByRole('button', { name: 'report' }).getAttribute('aria-pressed')).toBe('true')
  await user.keyboard(']')
  expect(screen.getByRole('button', { name: 'sign' }).getAttribute('aria-pressed')).toBe('true')
})

describe('the report', () => {
  const hash = () => screen.queryByText(/^1a1b2c3d4/)

  test('is of the issue that the course is closed by, with its hash and who signed', async () => {
    show('report')
    expect(await screen.findByText(/, issue 1 in force\./)).toBeTruthy()
    expect(hash()).not.toBeNull()
  })

  test('of a course that is open again says so, and puts nobody’s signature under its figures', async () => {
    issues = [issue(1, { reopened: { by: 'Ines Valdry', at: '2026-12-22T10:00:00.000Z', reason: 'an appeal' } })]
    show('report', table({ confirmedIssue: null }))
    expect(await screen.findByText(/: as it stands now, not signed\./)).toBeTruthy()
    expect(screen.getByText('Not signed: these figures are the course as it stands now.')).toBeTruthy()
    expect(hash()).toBeNull()
  })
})
