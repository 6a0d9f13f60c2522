import { act, screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { useOutbox } from './useOutbox'

/** What one screen after another types into, and a browser that keeps what waits. */
function lane() {
  const sent: string[] = []
  const kept: { list: readonly string[] } = { list: [] }
  let answer: () => void = () => undefined
  function Screen() {
    const [outbox] = useOutbox<string, null>(
      'lane',
      '',
      {
        nameOf: (text) => text,
        after: 0,
        send(batch) {
          sent.push(...batch)
          return new Promise((resolve) => (answer = () => resolve(null)))
        },
        keep(list) {
          kept.list = [...list]
          return true
        },
      },
      () => ({ entries: kept.list }),
    )
    return <button onClick={() => outbox.put(['a'])}>type</button>
  }
  return { sent, kept, Screen, arrive: () => act(async () => answer()) }
}

test('what is on its way when one goes from screen to screen is sent once, however often one goes', async () => {
  const { sent, kept, Screen, arrive } = lane()
  const { user, show } = inPage(<Screen key="first" />)
  // Nothing waits yet: the second screen has the outbox of the first.
  await act(async () => show(<Screen key="second" />))
  await user.click(screen.getByRole('button', { name: 'type' }))
  await act(async () => show(<Screen key="third" />))
  expect([sent, kept.list]).toEqual([['a'], ['a']])
  await arrive()
  expect([sent, kept.list]).toEqual([['a'], []])
})
