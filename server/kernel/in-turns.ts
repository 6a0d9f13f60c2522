import { setImmediate } from 'node:timers/promises'

/** Does work that comes in pieces; whoever else is asking is answered between them. */
export async function inTurns<T>(work: Generator<void, T>): Promise<T> {
  for (;;) {
    const step = work.next()
    if (step.done) return step.value
    await setImmediate()
  }
}
