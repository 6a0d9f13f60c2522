import { share } from '../../parts/format'
import styles from './bound.module.css'

const W = 56

/** How sure a grade is, as a bar with its figure; nothing where nobody can tell. */
export function SureBar({ chance }: { chance: number | null }) {
  if (chance === null || Number.isNaN(chance))
    return (
      <span className={`soft number ${styles.sure}`} title="How far its readings are off is not known.">
        –
      </span>
    )
  return (
    <span className={`number ${styles.sure}`}>
      <svg width={W} height="10" aria-hidden>
        <rect x="0.5" y="0.5" width={W - 1} height="9" fill="var(--sheet)" stroke="var(--ink)" />
        <rect width={W * chance} height="10" fill="var(--ink)" />
      </svg>{' '}
      <span className="figure">{share(chance)}</span>
    </span>
  )
}
