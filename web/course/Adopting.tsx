import { useKeys } from '../settings/keys'
import { AdoptDialog } from './AdoptDialog'
import { useTrial } from './trial'

interface Props {
  asked: boolean
  onAsk: () => void
  onClose: () => void
}

/** Adopting and discarding by key, from the moment that a trial is open: the grades and the horizon may still be on their way. */
export function Adopting({ asked, onAsk, onClose }: Props) {
  const { changes, discard } = useTrial()
  useKeys(
    changes.length === 0
      ? []
      : [
          { key: 'Ctrl+Enter', does: 'adopt the trial', inFields: true, run: onAsk },
          { key: 'Ctrl+Backspace', does: 'discard the trial', run: discard },
        ],
  )
  return asked ? <AdoptDialog onClose={onClose} /> : null
}
