import { fileGate } from './file-gate'

test('who comes while the file is written anew waits, and goes on once it is, or where that failed', async () => {
  const gate = fileGate()
  const passed: string[] = []
  gate.pass(() => passed.push('before'))
  for (const [words, end] of [
    ['written', () => Promise.resolve()],
    ['failed', () => Promise.reject(new Error('the disk is full'))],
  ] as const) {
    let begin = () => undefined as void
    const begun = new Promise<void>((done) => (begin = done))
    const shut = gate.whileShut(() => begun.then(end)).catch((e: Error) => e.message)
    const through = new Promise<void>((done) =>
      gate.pass(() => {
        passed.push(words)
        done()
      }),
    )
    expect(passed).not.toContain(words)
    begin()
    await Promise.all([shut, through])
    expect(passed).toContain(words)
  }
  expect(passed).toEqual(['before', 'written', 'failed'])
})
