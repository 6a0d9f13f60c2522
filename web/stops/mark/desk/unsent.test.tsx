import { screen, waitFor } from '@testing-library/react'
import { page as whose } from '../../../api/client'
import { routes, type DeskScript, type Pile, type ReadingBody } from '#contract'
import { NOTHING_JUDGED } from '../../../parts/judge/judged'
import { USE } from '../../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import { backupOf, type Backup } from './backup'
import { DeskPart } from './DeskPart'

const EMPTY: ReadingBody = { judged: NOTHING_JUDGED, comment: '', criterionComments: {}, notes: '' }
const pile: Pile = {
  assessmentId: 'sketch',
  title: 'Sketch',
  marking: 'rubric',
  total: 2,
  draft: 0,
  handedIn: 0,
  due: null,
  gate: 'open',
  unreadExemplars: 0,
}
const script = (version: number, comment = ''): DeskScript => ({
  studentId: 'p7',
  label: '4711',
  status: 'in',
  daysLate: 0,
  cameAt: null,
  attempts: [],
  assessment: { id: 'sketch', title: 'Sketch', outOf: 40, marking: 'rubric', notes: '', use: USE },
  standard: null,
  own: { ...EMPTY, comment, state: 'draft', version, mark: null },
  before: null,
  earlier: [],
  others: [],
  seen: false,
  between: null,
  fixed: null,
})
const backup = backupOf({ personId: 'mo', courseId: 'c', assessmentId: 'sketch', studentId: 'p7' })
const kept: Backup = {
  version: 1,
  as: 'handed in',
  gapMeant: true,
  afterSeeing: false,
  unanswered: [],
  body: { ...EMPTY, comment: 'Go on.' },
}

beforeEach(() => {
  localStorage.clear()
  whose.keepKey = btoa('k'.repeat(32))
})

function start(there: DeskScript, refuses?: Refuses) {
  const server = serverAnswers([
    [routes.piles, () => [pile]],
    [routes.looks, () => []],
    [routes.deskScript, () => there],
    [routes.keepReading, () => refuses ?? { version: 2, mark: 12, state: 'handed in' }],
  ])
  inPage(<DeskPart courseId="c" nav={null} />, { known: [[['me'], { id: 'mo', name: 'Mo', look: null }]] })
  return server
}

test('a reading handed in with the server away, and the page reloaded, is sent as such from the start page', async () => {
  backup.keep(kept)
  const server = start(script(1))
  await waitFor(() => expect(server.sent).toHaveLength(1))
  expect(server.sent[0]!.body).toMatchObject({ comment: 'Go on.', version: 1, state: 'handed in', gapMeant: true })
  await waitFor(() => expect(backup.read()).toBeNull())
  expect(screen.queryByRole('alert')).toBeNull()
})

test('changed in another window meanwhile, it is not sent: it stands on the start page until one has chosen', async () => {
  backup.keep(kept)
  const server = start(script(4, 'Otherwise.'))
  expect((await screen.findByRole('alert')).textContent).toMatch(/1 reading kept in this browser is not saved/)
  expect(screen.getByRole('link', { name: /Sketch, a script begun here/ }).getAttribute('href')).toMatch(/of=sketch&script=p7$/)
  expect(server.sent).toEqual([])
  expect(backup.read()).toEqual(kept)
})

test('refused, it stays here as it was and is named', async () => {
  backup.keep(kept)
  start(script(1), new Refuses(422, 'Nothing is judged.'))
  await screen.findByRole('alert')
  expect(backup.read()).toEqual(kept)
})
