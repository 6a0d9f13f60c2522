import { OfflineError, ProblemError } from '../api/client'
import { doWhatWaits } from './after-drawing'
import { Outbox, type Errand } from './outbox'

interface Entry {
  name: string
  text: string
  version: number
}
interface There {
  version: number
}
type Answer = { versions: Record<string, number> }

const entry = (name: string, text: string, version = 0): Entry => ({ name, text, version })
const refusal = (status: number, current?: unknown) =>
  new ProblemError({ type: 'about:blank', title: 'Refused', status, detail: 'It was refused.', current })

/** A server that answers when told to, and an outbox before it. */
function make(more: Partial<Errand<Entry, Answer, There>> = {}) {
  const sent: string[][] = []
  const waitsFor: { resolve: (answer: Answer) => void; reject: (e: unknown) => void; batch: readonly Entry[] }[] = []
  const kept: Entry[][] = []
  let here = true
  const said: string[] = []
  const errand: Errand<Entry, Answer, There> = {
    nameOf: (e) => e.name,
    after: 50,
    may: () => here,
    send(batch) {
      sent.push(batch.map((e) => `${e.name}=${e.text}@${e.version}`))
      return new Promise((resolve, reject) => waitsFor.push({ resolve, reject, batch }))
    },
    merge: (next, waiting) => ({ ...next, version: waiting.version }),
    rebase: (next, was, { versions }) => ({ ...next, version: versions[was.name] ?? next.version }),
    conflict: (e) => (e instanceof ProblemError && e.problem.status === 409 ? { there: e.problem.current as There } : null),
    keep: (waiting) => {
      kept.push([...waiting])
      return true
    },
    ...more,
  }
  const outbox = new Outbox(errand, {
    saving: async (work) => {
      said.push('saving')
      return work
    },
    waits: () => {
      said.push('typed')
      return () => void said.push('settled')
    },
  })
  const turn = async () => {
    for (let i = 0; i < 8; i++) await Promise.resolve()
  }
  return {
    outbox,
    sent,
    said,
    kept: () => (doWhatWaits(), kept.at(-1)?.map((e) => `${e.name}=${e.text}@${e.version}`)),
    signOut: () => (here = false),
    /** Lets time pass, and what is due go off. */
    async pass(ms: number) {
      jest.advanceTimersByTime(ms)
      await turn()
    },
    async answer(versions: Record<string, number> = {}) {
      waitsFor.shift()!.resolve({ versions })
      await turn()
    },
    async refuse(e: unknown) {
      waitsFor.shift()!.reject(e)
      await turn()
    },
    waiting: () => [...outbox.snapshot().waiting.values()].map((e) => `${e.name}=${e.text}`),
  }
}

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

test('what is typed goes off together once one stops for a moment, and is then no longer kept', async () => {
  const { outbox, sent, pass, answer, kept, said } = make()
  outbox.put([entry('a', '1')])
  await pass(40)
  outbox.put([entry('b', '2')])
  await pass(40)
  expect([sent, kept()]).toEqual([[], ['a=1@0', 'b=2@0']])
  await pass(10)
  expect(sent).toEqual([['a=1@0', 'b=2@0']])
  await answer()
  expect([kept(), said]).toEqual([[], ['typed', 'saving', 'settled']])
})

test('typed again while the first is on its way, the next goes on top of what that became', async () => {
  const { outbox, sent, pass, answer, said } = make()
  outbox.put([entry('a', '1', 4)])
  await pass(50)
  outbox.put([entry('a', '12', 4)])
  await pass(50)
  expect(sent).toEqual([['a=1@4']])
  await answer({ a: 5 })
  expect(said).not.toContain('settled')
  await pass(0)
  expect(sent).toEqual([['a=1@4'], ['a=12@5']])
})

test('with the server away everything waits and is tried again; the version it was typed over stays', async () => {
  const { outbox, sent, pass, refuse, answer, kept } = make()
  outbox.put([entry('a', '1', 4)])
  await pass(50)
  await refuse(new OfflineError())
  expect([outbox.snapshot().problem, kept()]).toEqual([expect.any(OfflineError), ['a=1@4']])
  outbox.put([entry('a', '2', 9)])
  await pass(50)
  await refuse(refusal(503))
  await pass(3000)
  expect(sent.at(-1)).toEqual(['a=2@4'])
  await answer()
  expect([outbox.snapshot().problem, kept()]).toEqual([null, []])
})

test('what was sent and not answered is told apart from what was never sent', async () => {
  const { outbox, pass, refuse, waiting } = make({ unanswered: (now, sent) => ({ ...now, text: `${now.text} after ${sent.text}` }) })
  outbox.put([entry('a', '1')])
  await pass(50)
  outbox.put([entry('a', '2')])
  await refuse(new OfflineError())
  expect(waiting()).toEqual(['a=2 after 1'])
})

test('what is refused goes, where the screen says so, and the rest is sent', async () => {
  const refused: string[] = []
  const { outbox, sent, pass, refuse, answer } = make({ atOnce: 1, refused: (_, batch) => refused.push(...batch.map((e) => e.name)) })
  outbox.put([entry('a', '1'), entry('b', '2')])
  await pass(50)
  await refuse(refusal(422))
  await pass(0)
  await answer()
  expect([refused, sent, outbox.snapshot().waiting.size]).toEqual([['a'], [['a=1@0'], ['b=2@0']], 0])
})

test('elsewhere it stays as it was typed, is said to be done with, and is sent when it is typed again', async () => {
  const { outbox, sent, pass, refuse, answer, said, waiting } = make()
  outbox.put([entry('a', '1')])
  await pass(50)
  await refuse(refusal(422))
  await pass(10_000)
  expect([sent.length, said.at(-1), waiting()]).toEqual([1, 'settled', ['a=1']])
  outbox.put([entry('a', '2')])
  await pass(50)
  await answer()
  expect([sent.at(-1), waiting(), outbox.snapshot().problem]).toEqual([['a=2@0'], [], null])
})

describe('where somebody else was faster', () => {
  async function clashed() {
    const made = make({ atOnce: 1, dropped: jest.fn() })
    made.outbox.put([entry('a', '1', 4), entry('b', '2', 1)])
    await made.pass(50)
    await made.refuse(refusal(409, { version: 7 }))
    return made
  }

  test('nothing more is sent until one has chosen', async () => {
    const { outbox, sent, pass } = await clashed()
    outbox.put([entry('a', '11', 4)])
    await pass(10_000)
    expect(await outbox.flush()).toBe(false)
    expect([outbox.snapshot().clash, sent.length]).toEqual([{ version: 7 }, 1])
  })

  test('one’s own goes over what is there', async () => {
    const { outbox, sent, pass, answer } = await clashed()
    outbox.put([entry('a', '11', 4)])
    outbox.settle('mine', (e, { version }) => ({ ...e, version }))
    await pass(0)
    await answer()
    await pass(0)
    expect([outbox.snapshot().clash, sent.slice(1)]).toEqual([null, [['a=11@7'], ['b=2@1']]])
  })

  test('or what is there is taken: that entry is dropped, and the others go on', async () => {
    const { outbox, sent, pass, waiting } = await clashed()
    outbox.settle('theirs', (e) => e)
    expect(waiting()).toEqual(['b=2'])
    await pass(0)
    expect(sent.slice(1)).toEqual([['b=2@1']])
  })

  test('and where it was only the answer that had not come, it goes on top of it unasked', async () => {
    const { outbox, sent, pass, refuse, answer } = make({ conflict: (_, e) => ({ again: { ...e, version: 7 } }) })
    outbox.put([entry('a', '1', 4)])
    await pass(50)
    await refuse(refusal(409, { version: 7 }))
    await answer()
    expect([sent, outbox.snapshot().waiting.size]).toEqual([[['a=1@4'], ['a=1@7']], 0])
  })
})

test('what an earlier page left is sent, but never over what was typed since', async () => {
  const { outbox, sent, pass } = make()
  outbox.put([entry('a', 'new')])
  outbox.restore([entry('a', 'old'), entry('b', 'left')])
  await pass(0)
  expect(sent).toEqual([['a=new@0', 'b=left@0']])
})

test('nothing is sent from a page that is somebody else’s by now', async () => {
  const { outbox, sent, pass, signOut, kept } = make()
  outbox.put([entry('a', '1')])
  signOut()
  await pass(50)
  expect([await outbox.flush(), sent, kept()]).toEqual([false, [], ['a=1@0']])
})

test('signing out sends as long as each batch gets through, and leaves the rest kept', async () => {
  const { outbox, sent, pass, answer, refuse, waiting } = make({ atOnce: 1 })
  outbox.put([entry('a', '1'), entry('b', '2'), entry('c', '3')])
  await pass(50)
  const drained = outbox.drain()
  await answer()
  await refuse(new OfflineError())
  await drained
  expect([sent, waiting()]).toEqual([
    [['a=1@0'], ['b=2@0']],
    ['b=2', 'c=3'],
  ])
})

test('handing something in waits for what is on its way, and says whether it got through', async () => {
  const { outbox, sent, pass, answer, refuse } = make()
  outbox.put([entry('a', '1')])
  await pass(50)
  const first = outbox.putNow(entry('a', 'done'))
  expect(sent.length).toBe(1)
  await answer({ a: 1 })
  await answer({ a: 2 })
  expect([await first, sent.at(-1)]).toEqual([true, ['a=done@1']])
  const second = outbox.putNow(entry('a', 'more'))
  await pass(0)
  await refuse(new OfflineError())
  expect(await second).toBe(false)
})

test('a page that is closed asks only over what was kept nowhere', async () => {
  const all = make()
  all.outbox.put([entry('a', '1')])
  const nothing = make({ keep: () => false })
  expect(nothing.outbox.wouldLose).toBe(false)
  nothing.outbox.put([entry('a', '1')])
  expect([all.outbox.wouldLose, nothing.outbox.wouldLose]).toEqual([false, true])
})

test('a page being closed sends what is not on its way already, where that is worth a try', async () => {
  const left: string[] = []
  const { outbox, pass } = make({ leave: (waiting) => left.push(...waiting.map((e) => e.text)) })
  outbox.put([entry('a', '1')])
  await pass(50)
  outbox.put([entry('b', '2')])
  outbox.leave()
  expect(left).toEqual(['2'])
})

test('called off, what waits is gone, and what is on its way is waited for', async () => {
  const dropped: string[] = []
  const { outbox, pass, answer, waiting, said } = make({ dropped: (gone) => dropped.push(...gone.map((e) => e.text)) })
  outbox.put([entry('a', '1')])
  await pass(50)
  outbox.put([entry('a', '2')])
  const off = outbox.cancel()
  await answer()
  await off
  expect([waiting(), dropped, said.at(-1)]).toEqual([[], ['2'], 'settled'])
})
