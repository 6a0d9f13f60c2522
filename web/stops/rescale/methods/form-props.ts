import type { RescaleFigures } from '../figures'
import type { Rescaling } from '../useRescaling'

/** What every form of a way is given. */
export interface FormProps {
  rescaling: Rescaling
  figures: RescaleFigures
  /** The point that is pulled. */
  point: number
  onPoint: (at: number) => void
  /** What had to be said before it could be tried is said. */
  onChosen: () => void
}
