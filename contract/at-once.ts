/** Does work that comes in pieces in one go. */
export function atOnce<T>(work: Generator<void, T>): T {
  for (;;) {
    const step = work.next()
    if (step.done) return step.value
  }
}
