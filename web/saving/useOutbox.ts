import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react'
import { isStill } from '../api/client'
import { useSendBeforeSignOut } from '../session/leave'
import { Outbox, type Errand, type OutboxState } from './outbox'
import { liveOutboxes } from './live-outboxes'
import { useSaved } from './saved'

/** What an earlier page left, and what somebody else put in its place since. */
export interface Left<T, There> {
  entries: readonly T[]
  clash?: There | null
}

/**
 * The outbox of a name, with what its screen brings. What waits is sent when the screen is left and before its person signs out, and
 * closing the page over what is kept nowhere is asked about.
 * @param name the kind of input, and the ids that it belongs to
 */
export function useOutbox<T, Answer, There = never>(
  name: string,
  personId: string,
  errand: Omit<Errand<T, Answer, There>, 'may'>,
  begin?: () => Left<T, There>,
): [Outbox<T, Answer, There>, OutboxState<T, There>] {
  const { saving, waits } = useSaved()
  const brought = { ...errand, may: () => isStill(personId) }
  const first = useRef({ brought, begin, ledger: { saving, waits } })
  first.current = { brought, begin, ledger: { saving, waits } }
  const outbox = useMemo(
    () =>
      (liveOutboxes.get(name) as Outbox<T, Answer, There> | undefined) ??
      new Outbox<T, Answer, There>(first.current.brought, first.current.ledger),
    [name],
  )
  outbox.serve(brought)
  const state = useSyncExternalStore(outbox.subscribe, outbox.snapshot)
  useEffect(() => {
    outbox.tell(first.current.ledger)
    if (liveOutboxes.enter(name, outbox)) void outbox.flush()
    else {
      const left = first.current.begin?.()
      if (left) outbox.restore(left.entries, left.clash)
    }
    const onLeave = (e: BeforeUnloadEvent) => {
      if (outbox.wouldLose) e.preventDefault()
    }
    const onHide = () => outbox.leave()
    window.addEventListener('beforeunload', onLeave)
    window.addEventListener('pagehide', onHide)
    return () => {
      window.removeEventListener('beforeunload', onLeave)
      window.removeEventListener('pagehide', onHide)
      liveOutboxes.leave(name, outbox, outbox.flush())
    }
  }, [outbox, name])
  useSendBeforeSignOut(() => outbox.drain())
  return [outbox, state]
}
