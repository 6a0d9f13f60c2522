import { act, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { routes, type MarksUpload, type TriedImport } from '#contract'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import { BringIn } from './BringIn'

const row = (more: Partial<TriedImport['rows'][number]> = {}): TriedImport['rows'][number] => ({
  line: 2,
  column: null,
  outcome: 'added',
  candidate: '4711',
  assessment: 'Essay',
  before: '',
  after: '31',
  reason: null,
  ...more,
})
const tried = (rows: TriedImport['rows'], unlisted = 0, notes: string[] = [], table: TriedImport['table'] = null): TriedImport => {
  const count = (outcome: string) => rows.filter((r) => r.outcome === outcome).length
  return {
    rows,
    unlisted,
    notes,
    sheets: [],
    table,
    counts: { added: count('added'), changed: count('changed'), unchanged: count('unchanged'), refused: count('refused') },
  } as TriedImport
}

const CHANGED = [
  { studentId: 'ada', assessmentId: 'essay', mark: 31, status: 'in', daysLate: 0, was: { mark: null, status: 'in', daysLate: 0 } },
]

function bringing(would: (body: MarksUpload) => unknown) {
  const server = serverAnswers([
    [routes.tryImport, would as never],
    [routes.bringIn, () => ({ ...tried([row()]), changed: CHANGED })],
  ])
  const onClose = jest.fn()
  const onBroughtIn = jest.fn()
  const page = inPage(<BringIn courseId="c" titles={['Essay', 'Paper']} onBroughtIn={onBroughtIn} onClose={onClose} />)
  const paste = (text: string) =>
    fireEvent.paste(screen.getByLabelText('Paste the file’s text'), { clipboardData: { getData: () => text } })
  const button = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Bring in/ })
  const broughtIn = () => server.sent.filter((s) => !s.address.endsWith('/try')).map((s) => s.body)
  return { ...page, onClose, onBroughtIn, paste, button, broughtIn }
}

test('a file is tried before anything changes, and then brought in as it was tried', async () => {
  const { user, paste, button, broughtIn, onClose, onBroughtIn } = bringing(() =>
    tried([row(), row({ line: 3, outcome: 'changed', before: '20' })]),
  )
  expect(button().disabled).toBe(true)
  paste('candidate,Essay\n4711,31')
  await screen.findByRole('table')
  expect(screen.getAllByRole('row')[2]!.textContent).toBe('3Essay47112031changed')
  expect(broughtIn()).toEqual([])
  await user.click(screen.getByRole('button', { name: 'Bring in 2 marks' }))
  await waitFor(() => expect(onClose).toHaveBeenCalled())
  expect(broughtIn()).toEqual([{ text: 'candidate,Essay\n4711,31' }])
  expect(onBroughtIn).toHaveBeenCalledWith(CHANGED, 'a pasted file')
})

test('while a row is refused nothing is brought in; the row says where and why', async () => {
  const { paste, button } = bringing(() =>
    tried([row(), row({ line: 3, outcome: 'refused', after: '41', reason: '41 is over 40, what Essay is marked out of.' })], 7),
  )
  paste('any')
  expect(await screen.findByText(/nothing is brought in while a row is refused/)).toBeTruthy()
  expect(within(screen.getAllByRole('row')[2]!).getByText('41 is over 40, what Essay is marked out of.')).toBeTruthy()
  expect(screen.getByText('and 7 more')).toBeTruthy()
  expect(button().disabled).toBe(true)
})

test('what the server cannot read is said; a file that is too large is not sent', async () => {
  const { user, paste, broughtIn } = bringing(() => new Refuses(422, 'There is no column “candidate” in it.'))
  paste('nonsense')
  expect((await screen.findByRole('alert')).textContent).toBe('There is no column “candidate” in it.')
  const large = Object.defineProperty(new File(['x'], 'all.csv'), 'size', { value: 13_000_000 })
  await user.upload(screen.getByLabelText(/^CSV, XLSX, zipped results/), large)
  await waitFor(() => expect(screen.getByRole('alert').textContent).toMatch(/all.csv is over 12 MB/))
  expect(broughtIn()).toEqual([])
})

test('typed on after it was tried, it has to be tried again', async () => {
  const { user, paste, button } = bringing(() => tried([row()]))
  paste('candidate,Essay')
  await screen.findByRole('button', { name: 'Bring in 1 mark' })
  await user.type(screen.getByLabelText('Paste the file’s text'), 'x')
  expect(button().disabled).toBe(true)
  await user.click(screen.getByRole('button', { name: 'Try it' }))
  expect(await screen.findByRole('button', { name: 'Bring in 1 mark' })).toBeTruthy()
})

test('an answer that comes late says nothing of what was chosen since', async () => {
  const slow: ((answer: TriedImport) => void)[] = []
  const { paste, button, user, broughtIn } = bringing((body) =>
    'text' in body && body.text === 'first' ? new Promise((resolve) => slow.push(resolve)) : tried([row(), row({ line: 3 })]),
  )
  paste('first')
  paste('second')
  await screen.findByRole('button', { name: 'Bring in 2 marks' })
  await act(async () => slow[0]!(tried([row()])))
  expect(button().textContent).toBe('Bring in 2 marks')
  await user.click(button())
  await waitFor(() => expect(broughtIn()).toEqual([{ text: 'second' }]))
})

test('rows that are refused can be left out on purpose, as many as were seen; what was understood otherwise is said', async () => {
  const { user, paste, button, broughtIn } = bringing(() =>
    tried([row(), row({ line: 3, outcome: 'refused', reason: '“1O” is not a mark' })], 0, [
      'A decimal comma is read as a point: 17,5 in line 2.',
    ]),
  )
  paste('candidate;Essay')
  await screen.findByText('A decimal comma is read as a point: 17,5 in line 2.')
  expect(button().disabled).toBe(true)
  await user.click(screen.getByLabelText('leave out the row that is refused, and bring in the rest'))
  await user.click(screen.getByRole('button', { name: 'Bring in 1 mark' }))
  await waitFor(() => expect(broughtIn()).toEqual([{ text: 'candidate;Essay', leaveOut: 1 }]))
})

test('whose marks they are and of what is matched by hand where the heading does not tell; the rest is put aside', async () => {
  const header = ['Kürzel', 'Blatt', 'Total']
  const { user, paste, button, broughtIn } = bringing(({ match }) =>
    tried([row(match?.marks?.length === 1 ? {} : { outcome: 'refused', reason: 'No column says whose the marks are.' })], 0, [], {
      header,
      headingLine: 2,
      who: match?.who ?? null,
      marks: [
        ...(match?.marks ?? [
          { column: 1, assessment: 'Blatt' },
          { column: 2, assessment: 'Total' },
        ]),
      ],
    }),
  )
  paste('any')
  expect(await screen.findByText(/The heading was found in line 2/)).toBeTruthy()
  expect(button().disabled).toBe(true)
  await user.selectOptions(screen.getByLabelText('whose marks they are'), 'Kürzel')
  await user.selectOptions(await screen.findByLabelText('Kürzel is a'), 'mail address')
  await user.selectOptions(await screen.findByLabelText('Blatt is'), 'marks of Paper')
  await user.selectOptions(screen.getByLabelText('Total is'), 'put aside')
  expect(await screen.findByText(/Whose: “Kürzel”, the mail address\. Put aside: Total\./)).toBeTruthy()
  await user.click(button())
  const match = { headingLine: 2, who: { column: 0, by: 'e-mail' }, marks: [{ column: 1, assessment: 'Paper' }] }
  await waitFor(() => expect(broughtIn()).toEqual([{ text: 'any', match }]))
})
