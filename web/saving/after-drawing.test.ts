import { afterDrawing, doWhatWaits } from './after-drawing'

const done: string[] = []
const work = (name: string) => () => void done.push(name)
beforeEach(() => (done.length = 0))

test('it is done later, in order and once; asked for again it comes after what was asked for meanwhile', async () => {
  const [a, b] = [work('a'), work('b')]
  for (const each of [a, b, a]) afterDrawing(each)
  expect(done).toEqual([])
  await new Promise<void>((go) => afterDrawing(go))
  expect(done).toEqual(['b', 'a'])
})

test('whoever reads what it writes has it done at once, and then it does not wait any more', async () => {
  afterDrawing(work('a'))
  doWhatWaits()
  expect(done).toEqual(['a'])
  await new Promise<void>((go) => afterDrawing(go))
  expect(done).toEqual(['a'])
})

test('what reads in the middle of it does not begin what comes after itself', () => {
  afterDrawing(() => {
    doWhatWaits()
    done.push('reads')
  })
  afterDrawing(work('next'))
  doWhatWaits()
  expect(done).toEqual(['reads', 'next'])
})

test('where one fails the others are done all the same', async () => {
  afterDrawing(() => {
    throw new Error('no room')
  })
  const rest = new Promise<void>((go) => afterDrawing(go))
  afterDrawing(work('last'))
  expect(doWhatWaits).toThrow('no room')
  await rest
  await new Promise<void>((go) => afterDrawing(go))
  expect(done).toEqual(['last'])
})

test('it is done before the page is left', () => {
  const listener = new Map<string, () => void>()
  jest.isolateModules(() => {
    Object.assign(globalThis, { window: { addEventListener: (name: string, hears: () => void) => listener.set(name, hears) } })
    const fresh = jest.requireActual<typeof import('./after-drawing')>('./after-drawing')
    fresh.afterDrawing(work('typed'))
  })
  listener.get('pagehide')!()
  expect(done).toEqual(['typed'])
})
