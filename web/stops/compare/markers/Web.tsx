import { useMemo } from 'react'
import { counted, signed } from '../../../parts/format'
import { shortNames } from '../../../parts/short-names'
import { ChartTable } from '../../../parts/ChartTable'
import styles from '../compare.module.css'
import type { ComparedMarkers } from './figures'
import { placeWeb } from './place-web'

interface Props {
  compared: ComparedMarkers
  chosenId: string | undefined
  onChoose: (id: string) => void
}

const W = 350
const H = 300
/** With more of them than this, those who share scripts with the chosen one are drawn. */
const MOST = 30

/** The web of markers as a survey net: a triangle each, joined by a line as thick as the scripts they share; groups apart stand apart. */
export function Web({ compared, chosenId, onChoose }: Props) {
  const { markers, links, groups, tolerance } = compared
  const surname = useMemo(() => shortNames(markers), [markers])
  const near = useMemo(() => {
    if (markers.length <= MOST) return null
    const own = links.filter((l) => l.a === chosenId || l.b === chosenId).flatMap((l) => [l.a, l.b])
    return new Set([...own, ...(chosenId ? [chosenId] : [])])
  }, [markers, links, chosenId])
  const placed = useMemo(() => {
    const shown = near ? [[...near]] : groups
    return new Map(placeWeb(shown, links, W, H).map((p) => [p.id, p]))
  }, [near, groups, links])
  const most = Math.max(1, ...links.map((l) => l.scripts))
  const small = groups.slice(1)
  return (
    <>
      <svg className={styles.web} viewBox={`0 0 ${W} ${H}`} role="group" aria-label="The web of markers, joined by the scripts they share">
        {links.map((l) => {
          const [a, b] = [placed.get(l.a), placed.get(l.b)]
          if (!a || !b) return null
          return (
            <line key={`${l.a} ${l.b}`} x1={a.x} y1={a.y} x2={b.x} y2={b.y} strokeWidth={0.8 + (3.4 * l.scripts) / most}>
              <title>{counted(l.scripts, 'script')} in common</title>
            </line>
          )
        })}
        {!near && small.length > 0 && <path className={styles.far} d={`M10 ${H - 74}H${W - 10}`} />}
        {markers.map((m) => {
          const at = placed.get(m.id)
          if (!at) return null
          const leans = m.lean !== null && Math.abs(m.lean) > tolerance
          return (
            <g
              key={m.id}
              role="button"
              tabIndex={0}
              aria-pressed={m.id === chosenId}
              aria-label={`${m.name}, ${m.lean === null ? 'no lean can be told' : signed(m.lean)}`}
              className={m.id === chosenId ? styles.chosen : undefined}
              transform={`translate(${at.x} ${at.y})`}
              onClick={() => onChoose(m.id)}
              onKeyDown={(e) => {
                if (e.key !== 'Enter' && e.key !== ' ') return
                e.preventDefault()
                onChoose(m.id)
              }}
            >
              <path className={styles.node} d="M0 -10L9.5 7H-9.5Z" />
              <circle cy={1} r={3} fill={leans ? 'var(--ochre)' : 'var(--bubble)'} />
              <text y={20}>{surname(m.id)}</text>
            </g>
          )
        })}
      </svg>
      {near && <p className="small soft">Those who share scripts with the chosen one; all {markers.length} are in the table.</p>}
      <ChartTable
        heads={['markers', 'scripts in common']}
        rows={() => links.map((l) => [[l.a, l.b].map((m) => markers.find((x) => x.id === m)?.name).join(' and '), String(l.scripts)])}
      />
    </>
  )
}
