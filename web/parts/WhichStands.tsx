import type { ReactNode } from 'react'
import { Button } from 'react-bootstrap'

/** Something was changed in another window meanwhile: which of the two stands is asked, and nothing is sent until it is said. */
export function WhichStands({ children, onSettle }: { children: ReactNode; onSettle: (whose: 'mine' | 'theirs') => void }) {
  return (
    <div className="note bad" role="alert">
      <p className="mb-1">{children}</p>
      <span className="buttons">
        <Button size="sm" variant="outline-primary" onClick={() => onSettle('mine')}>
          Keep what is here
        </Button>
        <Button size="sm" variant="outline-primary" onClick={() => onSettle('theirs')}>
          Take what is there
        </Button>
      </span>
    </div>
  )
}
