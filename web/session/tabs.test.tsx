import { leaveTogether, othersSend, tellLeft } from './tabs'

/** As a browser has it: each hears what the others say. */
class Channel extends EventTarget {
  static readonly open = new Set<Channel>()
  constructor() {
    super()
    Channel.open.add(this)
  }
  postMessage(data: unknown) {
    for (const other of Channel.open)
      if (other !== this) queueMicrotask(() => other.dispatchEvent(Object.assign(new Event('message'), { data })))
  }
  close() {
    Channel.open.delete(this)
  }
}

test('the other tabs send what waits in them before somebody signs out, and are wiped once they have', async () => {
  Object.assign(globalThis, { BroadcastChannel: Channel })
  const order: string[] = []
  let sent: () => void = () => undefined
  leaveTogether(
    () => new Promise<void>((done) => (sent = () => (order.push('sent'), done()))),
    () => order.push('wiped'),
  )
  const others = othersSend().then(() => order.push('told'))
  await new Promise<void>((done) => setTimeout(done))
  sent()
  await others
  tellLeft()
  await Promise.resolve()
  expect(order).toEqual(['sent', 'told', 'wiped'])
})
