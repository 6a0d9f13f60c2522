import { act } from '@testing-library/react'
import { pendingWrites } from '../saving/pending-writes'
import { inPage } from '../testing/in-page'
import { courseChanged, makingKey, useCourseEvents } from './events'

/** A stream of versions, as the server tells them. */
class Stream {
  static open: Stream[] = []
  onmessage: ((e: { data: string }) => void) | null = null
  closed = false
  private named = new Map<string, (e: { data: string }) => void>()
  addEventListener = (name: string, listener: (e: { data: string }) => void) => void this.named.set(name, listener)
  tell = (name: string, data: string) => this.named.get(name)!({ data })
  constructor(readonly address: string) {
    Stream.open.push(this)
  }
  close() {
    this.closed = true
  }
}
const tell = (...versions: number[]) => act(() => versions.forEach((v) => Stream.open.at(-1)!.onmessage!({ data: String(v) })))
const wait = () => act(async () => void (await jest.advanceTimersByTimeAsync(600)))

beforeEach(() => {
  jest.useFakeTimers()
  Stream.open = []
  global.EventSource = Stream as unknown as typeof EventSource
})
afterEach(() => {
  pendingWrites.count = 0
  jest.useRealTimers()
})

function Following({ known }: { known?: number }) {
  useCourseEvents('c', known)
  return null
}
const KEYS = [
  ['plan', 'c'],
  ['sheet', 'c'],
  ['plan', 'other'],
]
function follow(known?: number) {
  const page = inPage(<Following known={known} />, { known: KEYS.map((key) => [key, {}] as const) })
  const stale = () => KEYS.filter((key) => page.queries.getQueryState(key)!.isInvalidated).map((key) => key.join(' '))
  return { ...page, stale }
}

test('what somebody else changed is fetched anew once for many, of that course alone', async () => {
  const { stale } = follow(4)
  tell(5, 6, 7)
  expect(stale()).toEqual([])
  await wait()
  expect(stale()).toEqual(['plan c', 'sheet c'])
})

test('what is on screen already is not fetched again, nor what the first word of the stream says', async () => {
  const known = follow(7)
  tell(7)
  await wait()
  expect(known.stale()).toEqual([])
  const first = follow()
  tell(3)
  await wait()
  expect(first.stale()).toEqual([])
})

test('while this page writes nothing is fetched: the last of its writes does that', async () => {
  const { stale } = follow(4)
  pendingWrites.count = 1
  tell(5)
  await wait()
  expect(stale()).toEqual([])
})

test('a screen that fetches less than everything takes the sheet over, and is told up to which version', async () => {
  const told: number[] = []
  const take = (e: Event) => {
    told.push((e as CustomEvent<number>).detail)
    e.preventDefault()
  }
  courseChanged.addEventListener('c', take)
  const { stale } = follow(4)
  tell(5, 6)
  await wait()
  courseChanged.removeEventListener('c', take)
  expect([told, stale()]).toEqual([[6], ['plan c']])
})

test('the stream ends with the screen', () => {
  const { show } = follow(1)
  show(<p />)
  expect(Stream.open.every((s) => s.closed)).toBe(true)
})

test('how far an issue is that is being made stands where the page looks for it', () => {
  const { queries } = follow(4)
  expect(queries.getQueryData(makingKey('c'))).toBeUndefined()
  act(() => Stream.open.at(-1)!.tell('making', 'sealing it'))
  expect(queries.getQueryData(makingKey('c'))).toBe('sealing it')
})
