import { isSameSet, type Boundary } from '#core/grades'
import type { Change } from '#core/trial'

interface Trying {
  changes: readonly Change[]
  propose: (changes: Change[], label: string) => void
  setTrial: (changes: Change[], label: string) => void
}

/** Tries a set of boundaries over the one in force; back as they are in force there is nothing to try. */
export function tryBoundaries({ changes, propose, setTrial }: Trying, boundaries: Boundary[], inForce: Boundary[], label: string): void {
  if (isSameSet(boundaries, inForce))
    setTrial(
      changes.filter((c) => c.kind !== 'bound'),
      label,
    )
  else propose([{ kind: 'bound', boundaries, over: inForce }], label)
}
