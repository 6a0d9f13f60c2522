import type { ReactNode } from 'react'
import type { Carried } from './carried'

/** That only those are shown who were carried here, and the way back to all. */
export const CarriedHere = ({ carried, children, onAll }: { carried: Carried; children: ReactNode; onAll: () => void }) => (
  <p className="note d-flex gap-3 align-items-center py-1">
    <span>
      Carried here: <b>{carried.title}</b> · {children}
    </span>
    <button className="quiet-button" onClick={onAll}>
      All again
    </button>
  </p>
)
