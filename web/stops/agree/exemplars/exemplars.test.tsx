import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import { routes, type Exemplar, type Exemplars as Seen, type Judged } from '#contract'
import { NOTHING_JUDGED } from '../../../parts/judge/judged'
import { courseHead, USE } from '../../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import { Exemplars } from './Exemplars'

const STANDARD: Seen['standard'] = {
  id: 's',
  title: 'Sketch',
  version: 1,
  kind: 'rubric',
  body: {
    criteria: ['Aim', 'Line'].map((title) => ({
      id: title.toLowerCase(),
      title,
      ranges: false,
      penalty: false,
      levels: [0, 2, 4].map((points) => ({ points, words: `${title} at ${points}` })),
    })),
  },
}
const judged = (aim: number, line: number): Judged & { mark: number } => ({ ...NOTHING_JUDGED, picks: { aim, line }, mark: aim + line })
const exemplar = (id: string, more: Partial<Exemplar> = {}): Exemplar => ({
  id,
  label: `Exemplar ${id}`,
  text: `The words of ${id}.`,
  shown: 'nothing',
  version: 1,
  agreed: { ...judged(4, 2), note: 'The line wavers.' },
  own: null,
  readBy: 0,
  ...more,
})

function exemplars(role: 'lead' | 'marker', seen: Partial<Seen>) {
  let state: Seen = {
    assessment: { id: 'sketch', title: 'Sketch', outOf: 8, marking: 'rubric', tolerance: 1, use: USE },
    standard: STANDARD,
    exemplars: [],
    mine: 'held',
    markers: null,
    ...seen,
  }
  const sent: { how: string; body: Record<string, unknown> }[] = []
  const note = (how: string) => (body: Record<string, unknown>) => void sent.push({ how, body })
  serverAnswers([
    [routes.courses, () => [courseHead(role)]],
    [routes.tuning, () => [{ assessmentId: 'sketch', title: 'Sketch', exemplars: state.exemplars.length, unread: 0, held: 0 }]],
    [routes.exemplars, () => state],
    [
      routes.readExemplar,
      (body: Judged & { mark: number }, address) => {
        note('read')(body as never)
        const id = address.split('/').at(-2)!
        const own = { ...body, mark: Object.values(body.picks).reduce((n, p) => n + p, 0) }
        state = { ...state, exemplars: state.exemplars.map((x) => (x.id === id ? exemplar(id, { own }) : x)) }
      },
    ],
    [routes.addExemplar, (body: never) => (note('add')(body), { id: 'new' })],
    [
      routes.editExemplar,
      (body: Record<string, unknown>) =>
        String(body.text).includes('refuse') ? new Refuses(409, 'Two have read it: its text stays.') : note('edit')(body),
    ],
    [routes.setGate, (body: never) => note('gate')(body)],
  ])
  const page = inPage(<Exemplars courseId="c" nav={null} />, { known: [[['me'], { id: 'mo', name: 'Mo', look: null }]] })
  return { ...page, sent, ready: () => screen.findByRole('heading', { level: 1, name: 'Exemplars' }) }
}
const desk = () => within(screen.getByRole('article').parentElement!)

describe('a marker', () => {
  const unread = (id: string) => exemplar(id, { agreed: null })

  test('reads unseen: nothing of what was agreed is there until the reading is handed in; then how far off, and the next', async () => {
    const { user, sent, ready } = exemplars('marker', { exemplars: [unread('A'), unread('B')] })
    await ready()
    expect(await screen.findByText('2 exemplars to read first, unseen by the others: judge each as if it were a script.')).toBeTruthy()
    expect(document.body.textContent).not.toMatch(/wavers|[Aa]greed [0-9]/)
    await user.keyboard('{Control>}{Enter}{/Control}')
    expect(sent).toEqual([])
    desk().getAllByRole('radio')[0]!.focus()
    await user.keyboard('23')
    expect(desk().getByText('6')).toBeTruthy()
    await user.keyboard('{Enter}')
    await waitFor(() => expect(sent.map((s) => s.how)).toEqual(['read']))
    expect(await screen.findByText('The line wavers.')).toBeTruthy()
    expect(screen.getByText(/^Agreed/).textContent).toBe('Agreed 6 of 8; you gave 6 (the same)')
    await user.click(screen.getByRole('button', { name: /Read the next one/ }))
    // One begins with its words, and not at the end of the one before.
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('article', { name: 'Exemplar B' })))
    expect(screen.getByText('The words of B.')).toBeTruthy()
    expect(screen.getByText(/^1 exemplar to read first/)).toBeTruthy()
  })

  test('who has read all may begin, unless the lead holds it', async () => {
    const read = exemplar('A', { own: judged(2, 2) })
    const { ready } = exemplars('marker', { exemplars: [read], mine: 'open' })
    await ready()
    expect(await screen.findByText('You may begin to mark')).toBeTruthy()
    expect(screen.getByRole('img', { name: /^You leans: 2\.0 marks severe/ })).toBeTruthy()
    expect(screen.getByRole('img', { name: /^You on Aim leans: 2\.0 points severe/ })).toBeTruthy()
    expect(screen.getByRole('radio', { name: /^2: Aim at 2/ }).getAttribute('aria-checked')).toBe('true')
  })
})

describe('the lead', () => {
  const marker = (id: string, readings: NonNullable<Seen['markers']>[number]['readings'], more = {}) => ({
    id,
    name: id === 'mo' ? 'Mo Lund' : 'Ny Asplund',
    gate: 'held' as const,
    set: null,
    readings,
    ...more,
  })

  test('adds one: the text, every criterion and why; what lacks is named, and undo puts it away again', async () => {
    const { user, sent, ready } = exemplars('lead', { markers: [] })
    await ready()
    await screen.findByText(/Choose two or three scripts/)
    await user.keyboard('x')
    expect(screen.getByText('Still to say: the script’s text, Aim, Line, why')).toBeTruthy()
    await user.type(screen.getByLabelText('The script'), 'A ridge, drawn twice.')
    await user.click(screen.getByRole('radio', { name: /Aim at 4/ }))
    await user.click(screen.getByRole('radio', { name: /Line at 0/ }))
    await user.type(screen.getByLabelText('Why it is worth that'), 'Drawn twice is not drawn.')
    await user.selectOptions(screen.getByLabelText('Students see'), 'the script and its mark')
    await user.keyboard('{Control>}{Enter}{/Control}')
    await waitFor(() => expect(sent[0]).toMatchObject({ how: 'add', body: { label: 'Exemplar A', shown: 'mark' } }))
    expect((sent[0]!.body.agreed as Judged).picks).toEqual({ aim: 4, line: 0 })
    await user.click(await screen.findByRole('button', { name: 'Undo: add an exemplar' }))
    await waitFor(() => expect(sent[1]).toMatchObject({ how: 'edit', body: { away: true, version: 1 } }))
  })

  test('what was begun and left is there again, and can be begun anew', async () => {
    const { user, ready } = exemplars('lead', { markers: [] })
    await ready()
    await screen.findByText(/Choose two or three scripts/)
    await user.keyboard('x')
    await user.type(screen.getByLabelText('The script'), 'Half of it')
    await user.keyboard('{Escape}')
    expect(screen.queryByLabelText('The script')).toBeNull()
    await user.keyboard('x')
    expect(screen.getByLabelText<HTMLTextAreaElement>('The script').value).toBe('Half of it')
    await user.click(screen.getByRole('button', { name: 'Begin anew' }))
    expect(screen.getByLabelText<HTMLTextAreaElement>('The script').value).toBe('')
  })

  test('edits one and puts it away; each is undone and redone on top of what is there then', async () => {
    const { user, sent, ready } = exemplars('lead', { exemplars: [exemplar('A', { version: 3 })], markers: [] })
    await ready()
    await user.click(await screen.findByRole('button', { name: 'edit' }))
    await user.type(screen.getByLabelText('Why it is worth that'), ' Badly.')
    await user.click(screen.getByRole('button', { name: 'Save it' }))
    await waitFor(() => expect(sent.at(-1)!.body).toMatchObject({ note: 'The line wavers. Badly.', version: 3, away: false }))
    await user.keyboard('{Control>}z{/Control}')
    await waitFor(() => expect(sent.at(-1)!.body).toMatchObject({ note: 'The line wavers.', version: 4 }))
    await user.keyboard('{Control>}y{/Control}')
    await waitFor(() => expect(sent.at(-1)!.body).toMatchObject({ note: 'The line wavers. Badly.', version: 5 }))
    await user.click(screen.getByRole('button', { name: 'edit' }))
    await user.click(screen.getByRole('button', { name: 'Put it away' }))
    await waitFor(() => expect(sent.at(-1)!.body).toMatchObject({ away: true }))
  })

  test('what is refused keeps the form and says why', async () => {
    const { user, ready } = exemplars('lead', { exemplars: [exemplar('A')], markers: [] })
    await ready()
    await user.click(await screen.findByRole('button', { name: 'edit' }))
    fireEvent.change(screen.getByLabelText(/^The script/), { target: { value: 'refuse this' } })
    await user.click(screen.getByRole('button', { name: 'Save it' }))
    expect((await screen.findByRole('alert')).textContent).toContain('Two have read it: its text stays.')
    expect(screen.getByLabelText<HTMLTextAreaElement>(/^The script/).value).toBe('refuse this')
  })

  test('sees every marker’s lean, who has not read, one of them beside what was agreed, and opens or holds', async () => {
    const reading = (aim: number, line: number) => ({ ...judged(aim, line), exemplarId: 'A' })
    const { user, sent, ready } = exemplars('lead', {
      exemplars: [exemplar('A', { readBy: 1 })],
      markers: [marker('mo', [reading(4, 4)]), marker('ny', [], { gate: 'open', set: 'open' })],
    })
    await ready()
    expect(await screen.findByRole('img', { name: /^Mo Lund leans: 2\.0 marks generous/ })).toBeTruthy()
    expect(screen.getByText('0 of 1 read')).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Mo Lund' }))
    expect(screen.getByText(/^Agreed/).textContent).toContain('Mo Lund gave 8 (+2)')
    expect(screen.getByText(/The same mark on 0% of 1, within 1 on 0%/)).toBeTruthy()
    expect(screen.getByRole('img', { name: /^Mo Lund on Line leans: 2\.0 points generous/ })).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Open the marking for Mo Lund' }))
    await waitFor(() => expect(sent.at(-1)).toEqual({ how: 'gate', body: { gate: 'open' } }))
    await user.keyboard('{Control>}z{/Control}')
    await waitFor(() => expect(sent.at(-1)).toEqual({ how: 'gate', body: { gate: null } }))
    await user.click(screen.getByRole('button', { name: 'Hold the marking for Ny Asplund' }))
    await waitFor(() => expect(sent.at(-1)).toEqual({ how: 'gate', body: { gate: 'held' } }))
  })
})
