import { useQuery } from '@tanstack/react-query'
import { meQuery } from '../session/ahead'
import { pressedFor } from './keys'

/** A key as it stands on a button: the one that this person presses for it. */
export function KeyCap({ cap, quiet = false }: { cap: string; quiet?: boolean }) {
  // Drawn anew where the person chooses another.
  useQuery({ ...meQuery, enabled: false })
  return <kbd aria-hidden={quiet || undefined}>{keyShown(pressedFor(cap))}</kbd>
}

const NAMES: Record<string, string> = { ' ': 'Space', Delete: 'Del', Escape: 'Esc' }

/** `Ctrl+ArrowUp` as it is printed on keys. */
export const keyShown = (key: string): string => {
  const [last = '', ...held] = key.split(/\+(?=.)/).reverse()
  const name = NAMES[last] ?? last.replace('Arrow', '')
  // A capital is pressed with Shift: otherwise it and its small letter would look like one key.
  if (/^\p{Lu}$/u.test(name) && held.length === 0) return `Shift ${name}`
  return [...held.reverse(), name.length === 1 ? name.toUpperCase() : name].join(' ')
}
