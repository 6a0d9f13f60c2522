import { NavLink } from 'react-router'
import type { Sight } from '#core/roles'
import type { Stop } from '#core/trial'
import styles from './run.module.css'
import type { StopState } from './stop'
import { RUN, STOPS } from './stops'
import { useKeys } from '../settings/keys'
import { useNavigate } from 'react-router'

/** The eight stops on one levelling line: a dot a stop, filled as far as it is clear. */
export function Run({ courseId, states, sight }: { courseId: string; states: Record<Stop, StopState> | null; sight: Sight }) {
  const navigate = useNavigate()
  useKeys(
    RUN.map((stop, i) => ({
      key: `Alt+${i + 1}`,
      does: `go to ${STOPS[stop].title}`,
      inFields: true,
      run: () => void navigate(`/courses/${courseId}/${stop}`),
    })),
  )
  return (
    <nav className={styles.run} aria-label="The run of work">
      <ol>
        {RUN.map((stop) => {
          const { title, isFor } = STOPS[stop]
          const state = states?.[stop]
          const open = state?.open ?? 0
          return (
            <li key={stop}>
              {isFor(sight) ? (
                <NavLink to={`/courses/${courseId}/${stop}`} aria-label={open > 0 ? `${title}, ${open} open` : title}>
                  <StopDot clear={state?.clear ?? 0} />
                  <span className={styles.label}>
                    {title}
                    {open > 0 && <b className="ochre"> {open}</b>}
                  </span>
                </NavLink>
              ) : (
                <span className={styles.closed} title="Not for your role in this course">
                  <StopDot clear={0} />
                  <span className={styles.label}>{title}</span>
                </span>
              )}
            </li>
          )
        })}
      </ol>
    </nav>
  )
}

const R = 4

function StopDot({ clear }: { clear: number }) {
  const part = Math.min(0.999, Math.max(0, clear))
  const angle = 2 * Math.PI * part
  const end = `${8 + R * Math.sin(angle)} ${8 - R * Math.cos(angle)}`
  return (
    <svg className={styles.dot} width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
      <circle cx="8" cy="8" r="6" className={styles.ring} />
      {clear >= 0.999 ? (
        <circle cx="8" cy="8" r={R} className={styles.fill} />
      ) : (
        part > 0 && <path className={styles.fill} d={`M8 8V${8 - R}A${R} ${R} 0 ${part > 0.5 ? 1 : 0} 1 ${end}Z`} />
      )}
    </svg>
  )
}
