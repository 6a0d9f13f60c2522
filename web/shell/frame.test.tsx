import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { useEffect } from 'react'
import { useLocation } from 'react-router'
import type { Change } from '#core/trial'
import { routes, type CourseHead } from '#contract'
import { page } from '../api/client'
import { courseHead } from '../testing/data'
import { inPage, Refuses, reload, serverAnswers } from '../testing/in-page'
import { smallTable } from '../testing/small-course'
import { Find } from './Find'
import { singleKeys, useKeys } from '../settings/keys'
import { KeysHelp } from '../settings/KeysHelp'
import { TrialProvider, useTrial } from '../course/trial'
import { useUndo } from '../saving/undo'
import { useWrites, WriteProblem } from '../saving/writes'

function Where() {
  const { pathname, search } = useLocation()
  return <p data-testid="where">{pathname + search}</p>
}
const where = () => screen.getByTestId('where').textContent
beforeEach(() => {
  localStorage.clear()
  serverAnswers([])
})

describe('keys', () => {
  test('Enter on a button is the button’s, a key that is only listed takes none, and letters can be switched off', async () => {
    const did: string[] = []
    function Screen() {
      useKeys([
        { key: 'Enter', does: 'listed only' },
        { key: 'x', does: 'a letter', run: () => did.push('x') },
        { key: 'Ctrl+Shift+z', does: 'redo what was', run: () => did.push('redo') },
        { key: 'Ctrl+z', does: 'undo', run: () => did.push('undo') },
      ])
      return (
        <>
          <button onClick={() => did.push('button')}>Press</button>
          <input type="checkbox" aria-label="box" />
          <KeysHelp />
        </>
      )
    }
    const { user } = inPage(<Screen />)
    screen.getByRole('button', { name: 'Press' }).focus()
    await user.keyboard('{Enter}x{Control>}{Shift>}z{/Shift}z{/Control}')
    expect(did).toEqual(['button', 'x', 'redo', 'undo'])
    screen.getByLabelText('box').focus()
    await user.keyboard('x')
    expect(did).toHaveLength(4)
    screen.getByLabelText('box').blur()
    await user.keyboard('?')
    await user.click(await screen.findByLabelText('single letters and signs act as keys'))
    await user.keyboard('{Escape}')
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    await user.keyboard('x')
    expect(did).toHaveLength(4)
    singleKeys.set(true)
  })

  function Screen({ did }: { did: (what: string) => void }) {
    useKeys([
      { key: 'x', does: 'cross it out', run: () => did('x') },
      { key: 'Alt+3', does: 'go to Mark', inFields: true, run: () => did('Alt+3') },
    ])
    return <input aria-label="words" />
  }
  test('a letter is a key of the screen, and while one types it is a letter; keys for fields too work in both', async () => {
    const did = jest.fn()
    const { user } = inPage(<Screen did={did} />)
    await user.keyboard('x')
    await user.type(screen.getByLabelText('words'), 'x{Alt>}3{/Alt}')
    expect(did.mock.calls.flat()).toEqual(['x', 'Alt+3'])
    expect(screen.getByLabelText<HTMLInputElement>('words').value).toBe('x')
  })

  test('? shows the keys of the screen, the nearest first; while it is open they rest', async () => {
    const did = jest.fn()
    const { user } = inPage(
      <>
        <KeysHelp />
        <Screen did={did} />
      </>,
    )
    await user.keyboard('?')
    const rows = within(screen.getByRole('dialog')).getAllByRole('row')
    expect(rows[0]!.textContent).toBe('Alt 3go to Mark')
    expect(rows.map((r) => r.textContent)).toContain('?these keys')
    await user.keyboard('x')
    expect(did).not.toHaveBeenCalled()
    await user.keyboard('{Escape}')
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  })

  test('a screen that is gone has no keys any more', async () => {
    const did = jest.fn()
    const { user, show } = inPage(<Screen did={did} />)
    show(<p>another</p>)
    await user.keyboard('x')
    expect(did).not.toHaveBeenCalled()
  })
})

describe('undo', () => {
  const log: string[] = []
  function Steps() {
    const { did, restore } = useUndo()
    const step = (label: string, id?: string) => ({
      id,
      label,
      undo: () => void log.push(`−${label}`),
      redo: () => void log.push(`+${label}`),
    })
    return (
      <>
        <button onClick={() => did(step('first'))}>first</button>
        <button onClick={() => did(step('second'))}>second</button>
        <button onClick={() => did(step('mistaken'))()}>mistaken</button>
        <button onClick={() => restore([step('of yesterday', 'y')], [])}>restore</button>
        <input aria-label="clean" data-clean="true" defaultValue="as it was" />
        <input aria-label="typed" data-clean="false" defaultValue="not saved" />
      </>
    )
  }
  const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }))
  beforeEach(() => void log.splice(0))

  test('the last step first, and back again; a new step ends what could be redone', async () => {
    const { user } = inPage(<Steps />)
    for (const name of ['first', 'second']) press(name)
    await user.keyboard('{Control>}zz{/Control}{Control>}y{/Control}')
    expect(log).toEqual(['−second', '−first', '+first'])
    press('second')
    expect(screen.getByRole('button', { name: 'Redo' }).hasAttribute('disabled')).toBe(true)
    expect(screen.getByRole('button', { name: 'Undo: second' })).toBeTruthy()
  })

  test('a step that did not come about is forgotten; steps of an earlier sitting lie beneath', async () => {
    const { user } = inPage(<Steps />)
    for (const name of ['first', 'mistaken', 'restore', 'restore']) press(name)
    await user.keyboard('{Control>}zzz{/Control}')
    expect(log).toEqual(['−first', '−of yesterday'])
  })

  test('in a field with something unsaved undo is the field’s own; in a clean one it is what was done before', async () => {
    const { user } = inPage(<Steps />)
    press('first')
    screen.getByLabelText('typed').focus()
    await user.keyboard('{Control>}z{/Control}')
    expect(log).toEqual([])
    screen.getByLabelText('clean').focus()
    await user.keyboard('{Control>}z{/Control}')
    expect(log).toEqual(['−first'])
  })
})

describe('writes', () => {
  type Job = { label: string; send: () => Promise<string>; back?: () => Promise<unknown> }
  function Writing({ jobs }: { jobs: Job[] }) {
    const { write } = useWrites()
    return (
      <>
        <WriteProblem />
        {jobs.map((j) => (
          <button key={j.label} onClick={() => void write(j.label, j.send, j.back)}>
            {j.label}
          </button>
        ))}
      </>
    )
  }
  const later = () => {
    let done!: (answer: string) => void
    return { promise: new Promise<string>((resolve) => (done = resolve)), done }
  }

  test('each waits for the one before; saved is said once the last is', async () => {
    const [a, b] = [later(), later()]
    const sent: string[] = []
    const job = (label: string, of: typeof a): Job => ({ label, send: () => (sent.push(label), of.promise) })
    const { user } = inPage(<Writing jobs={[job('one', a), job('two', b)]} />)
    await user.click(screen.getByRole('button', { name: 'one' }))
    await user.click(screen.getByRole('button', { name: 'two' }))
    expect([sent, !!screen.queryByText('saving…')]).toEqual([['one'], true])
    await act(async () => a.done('1'))
    expect([sent, !!screen.queryByText('saving…')]).toEqual([['one', 'two'], true])
    await act(async () => b.done('2'))
    expect(screen.getByText(/^✓ saved \d/)).toBeTruthy()
  })

  test('undo pressed before the answer takes its turn after it', async () => {
    const a = later()
    const order: string[] = []
    const back = async () => order.push('back')
    const { user } = inPage(<Writing jobs={[{ label: 'one', send: () => (order.push('sent'), a.promise), back }]} />)
    await user.click(screen.getByRole('button', { name: 'one' }))
    await user.keyboard('{Control>}z{/Control}')
    expect(order).toEqual(['sent'])
    await act(async () => a.done('1'))
    await waitFor(() => expect(order).toEqual(['sent', 'back']))
    await user.keyboard('{Control>}y{/Control}')
    await waitFor(() => expect(order).toEqual(['sent', 'back', 'sent']))
  })

  test('what is refused is said in the server’s words, is not in undo, and does not hold up the next', async () => {
    const refused: Job = { label: 'bad', send: () => Promise.reject(new Error('There is a mark on it.')), back: async () => undefined }
    const sent = jest.fn(async () => 'ok')
    const { user } = inPage(<Writing jobs={[refused, { label: 'good', send: sent }]} />)
    await user.click(screen.getByRole('button', { name: 'bad' }))
    const alert = await screen.findByRole('alert')
    expect(alert.textContent).toContain('There is a mark on it.')
    expect(screen.getByRole('button', { name: 'Undo' }).hasAttribute('disabled')).toBe(true)
    await user.click(within(alert).getByRole('button', { name: 'Understood' }))
    expect(screen.queryByRole('alert')).toBeNull()
    await user.click(screen.getByRole('button', { name: 'good' }))
    await waitFor(() => expect(sent).toHaveBeenCalled())
  })
})

test('names or numbers: N turns them, and the choice stays for the next page', async () => {
  const { user } = inPage(<p />)
  expect(screen.getByRole('button', { name: /Names · numbers/ }).getAttribute('aria-pressed')).toBe('false')
  await user.keyboard('N')
  expect(screen.getByRole('button', { name: /Names · numbers/ }).getAttribute('aria-pressed')).toBe('true')
  expect(localStorage.getItem('level-table-names')).toBe('numbers')
})

describe('find', () => {
  const finding = (role: CourseHead['role'], known: (readonly [readonly unknown[], unknown])[]) =>
    inPage(
      <>
        <Find course={courseHead(role)} />
        <Where />
      </>,
      { known },
    )
  test('a person by name or number, an assessment, a stop; arrows choose and Enter goes there', async () => {
    const { user } = finding('lead', [[['table', 'c'], { table: smallTable([]) }]])
    await user.keyboard('/')
    await user.keyboard('ess{Enter}')
    expect(where()).toBe('/courses/c/compare?of=essay')
    await user.keyboard('/102{Enter}')
    expect(where()).toBe('/courses/c/students/cy')
    await user.keyboard('/re{ArrowDown}')
    expect(screen.getByRole('option', { selected: true }).textContent).toMatch(/Rescale/)
    await user.keyboard('{Enter}')
    expect(where()).toBe('/courses/c/rescale')
    await user.keyboard('/nobody')
    expect(screen.getByText('Nothing here is called that.')).toBeTruthy()
  })

  test('where numbers are shown nobody is found by name', async () => {
    localStorage.setItem('level-table-names', 'numbers')
    const { user } = finding('lead', [[['table', 'c'], smallTable([])]])
    await user.keyboard('/ada')
    expect(screen.queryByRole('option')).toBeNull()
  })

  test('a marker finds scripts of their own piles', async () => {
    const { user } = finding('marker', [
      [['piles', 'c'], [{ assessmentId: 'essay', title: 'Essay' }]],
      [['pile', 'c', 'essay'], [{ studentId: 'p7', label: '4711' }]],
    ])
    await user.keyboard('/471{Enter}')
    expect(where()).toBe('/courses/c/mark/desk?of=essay&script=p7')
  })
})

describe('a trial', () => {
  const DECISION = {
    id: 'd',
    kind: 'weights' as const,
    summary: 'Exam weighs 60',
    changes: [],
    effect: null,
    reason: 'since it is fair',
    by: 'Ada',
    at: '2026-11-20T10:00:00.000Z',
    withdrawn: null,
  }
  const RULE = { kind: 'weigh', componentId: 'exam', weight: 60 } as Change
  let trial!: ReturnType<typeof useTrial>
  function Trial() {
    const now = useTrial()
    useEffect(() => void (trial = now))
    return <p>{now.changes.length} in trial</p>
  }
  const trying = (role: CourseHead['role'], more: Partial<CourseHead> = {}) =>
    inPage(
      <TrialProvider head={courseHead(role, more)}>
        <Trial />
      </TrialProvider>,
    )

  test('is kept as it grows, in one write; undo takes it back; discarding is undone too', async () => {
    const server = serverAnswers([
      [routes.trial, () => ({ changes: [], version: 0 })],
      [routes.keepTrial, ({ changes, version }: { changes: unknown[]; version: number }) => ({ changes, version: version + 1 })],
    ])
    const { user } = trying('lead')
    act(() => trial.propose([RULE], 'weight of Exam'))
    expect(screen.getByText('1 in trial')).toBeTruthy()
    await waitFor(() => expect(server.sent.map((s) => s.body)).toEqual([{ changes: [RULE], since: [null], version: 0 }]))
    act(() => trial.discard())
    await user.keyboard('{Control>}z{/Control}')
    expect(screen.getByText('1 in trial')).toBeTruthy()
    await user.keyboard('{Control>}z{/Control}')
    expect(screen.getByText('0 in trial')).toBeTruthy()
    await waitFor(() => expect(server.sent.at(-1)!.body).toEqual({ changes: [], since: [], version: 1 }))
  })

  test('what is only pulled is shown and not kept', () => {
    const server = serverAnswers([[routes.trial, () => ({ changes: [], version: 0 })]])
    trying('lead')
    act(() => trial.preview([RULE]))
    expect(screen.getByText('1 in trial')).toBeTruthy()
    act(() => trial.preview(null))
    expect([screen.getByText('0 in trial'), server.sent.length]).toEqual([expect.anything(), 0])
  })

  test('who listens hears of what is pulled before it is drawn, and it is drawn as it was heard', () => {
    serverAnswers([[routes.trial, () => ({ changes: [], version: 0 })]])
    trying('lead')
    const heard: (readonly Change[])[] = []
    trial.listen((changes) => heard.push(changes))
    act(() => {
      trial.preview([RULE])
      expect([heard, trial.changes]).toEqual([[[RULE]], []])
    })
    expect(trial.changes).toBe(heard[0])
  })

  test('undone, redone and undone again, each undo withdraws the decision that stands, and nothing is adopted twice', async () => {
    let made = 0
    const server = serverAnswers([
      [routes.trial, () => ({ changes: [RULE], version: 4 })],
      [routes.keepTrial, ({ changes, version }: { changes: unknown[]; version: number }) => ({ changes, version: version + 1 })],
      [routes.adopt, () => ({ ...DECISION, id: `d${++made}`, changes: [RULE] })],
      [routes.withdraw, () => DECISION],
    ])
    const { user } = trying('lead')
    await screen.findByText('1 in trial')
    await act(() => trial.adopt('since it is fair'))
    const asked = (route: string) => server.sent.filter((s) => s.address.includes(route))
    for (const [keys, count] of [
      ['{Control>}z{/Control}', 1],
      ['{Control>}y{/Control}', 2],
      ['{Control>}z{/Control}', 3],
      ['{Control>}y{/Control}', 4],
    ] as const) {
      await user.keyboard(keys)
      await waitFor(() => expect(asked('/decisions')).toHaveLength(count + 1))
    }
    expect(asked('/withdraw').map((s) => s.address.split('/').at(-2))).toEqual(['d1', 'd2'])
    expect(made).toBe(3)
  })

  test('what the server refuses to adopt stays a trial', async () => {
    serverAnswers([
      [routes.trial, () => ({ changes: [RULE], version: 4 })],
      [routes.adopt, () => new Refuses(409, 'Two boundaries are alike.')],
    ])
    trying('lead')
    await screen.findByText('1 in trial')
    await expect(act(() => trial.adopt('since it is fair'))).rejects.toThrow('Two boundaries are alike.')
    expect(screen.getByText('1 in trial')).toBeTruthy()
  })

  test('an external, a confirmed course and one that was put away have none', () => {
    serverAnswers([[routes.trial, () => ({ changes: [RULE], version: 1 })]])
    trying('external')
    expect([trial.mayDecide, trial.changes]).toEqual([false, []])
    cleanup()
    trying('lead', { confirmedIssue: 1 })
    expect([trial.mayDecide, trial.changes]).toEqual([false, []])
    cleanup()
    trying('lead', { awayAt: '2026-11-20T10:00:00.000Z' })
    expect([trial.mayDecide, trial.changes]).toEqual([false, []])
  })

  test('tried with the server away it waits over a reload, and is kept by the page that opens then', async () => {
    localStorage.clear()
    page.keepKey = btoa('k'.repeat(32))
    const answers = () =>
      serverAnswers([
        [routes.trial, () => ({ changes: [], version: 3 })],
        [routes.keepTrial, ({ changes, version }: { changes: unknown[]; version: number }) => ({ changes, version: version + 1 })],
      ])
    const first = answers()
    const { queries } = trying('lead')
    await waitFor(() => expect(queries.getQueryData(['trial', 'c'])).toBeTruthy())
    first.away = true
    act(() => trial.propose([RULE], 'weight of Exam'))
    await screen.findByText('✕ not saved')
    reload()
    const server = answers()
    trying('lead')
    expect(await screen.findByText('1 in trial')).toBeTruthy()
    await waitFor(() => expect(server.sent.map((s) => s.body)).toEqual([{ changes: [RULE], since: [null], version: 3 }]))
  })

  test('changed in another window meanwhile, both are there and nothing is sent until one is chosen', async () => {
    const theirs = [{ ...RULE, weight: 10 }, RULE]
    let version = 1
    const server = serverAnswers([
      [routes.trial, () => ({ changes: [], version: 0 })],
      [
        routes.keepTrial,
        (body: { changes: unknown[]; version: number }) =>
          body.version === version
            ? { changes: body.changes, version: ++version }
            : new Refuses(409, 'You changed the trial in another window.', { changes: theirs, version }),
      ],
    ])
    trying('lead')
    act(() => trial.propose([RULE], 'weight of Exam'))
    await waitFor(() => expect(trial.clash).toEqual(theirs))
    expect(screen.getByText('1 in trial')).toBeTruthy()
    act(() => trial.settleClash('mine'))
    await waitFor(() => expect(server.sent.at(-1)!.body).toEqual({ changes: [RULE], since: [null], version: 1 }))
    expect(trial.clash).toBeNull()
  })
})
