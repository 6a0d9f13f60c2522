import { useState, type ReactNode } from 'react'
import { useDecidedCourse, useFigures } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { TakeOut } from '../../../parts/take-out/TakeOut'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed } from '../../../parts/format'
import { tickStep } from '../../../parts/ticks'
import { WeightCloseUp } from './WeightCloseUp'
import { WeightLine } from './WeightLine'
import type { WeighedAssessment } from './figures'
import { CloseUp } from '../../../parts/CloseUp'
import styles from './weights.module.css'

const percent = (share: number | null) => (share === null ? '–' : fixed(share * 100))

/** What each assessment should carry, what it carries in each section, and what it really decides. */
export function CommonWeights({ nav }: { nav: ReactNode }) {
  const { table } = useDecidedCourse()
  const [wanted, setWanted] = useState<string | null>(null)
  const figures = useFigures('weights', wanted)
  const rows = figures?.rows ?? []
  const chosen = figures?.chosen?.row.id
  const step = (by: number) => {
    const next = rows[rows.findIndex((r) => r.id === chosen) + by]
    if (next) setWanted(next.id)
  }
  useKeys([
    { key: 'ArrowDown', does: 'next assessment', run: () => step(1) },
    { key: 'ArrowUp', does: 'assessment before', run: () => step(-1) },
  ])
  if (!figures) return <WorkingOut />
  const all = rows.flatMap((r) => [r.should ?? 0, r.decides ?? 0, ...r.elsewhere.map((e) => e.share)])
  const most = Math.max(0.1, ...all) * 1.05
  const tick = tickStep(100 * most) / 100
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>What decides the grade?</h1>
          {nav}
        </div>
        {rows.length === 0 ? (
          <p className="empty">Nothing counts towards the grade yet. Components and assessments are set out in the plan.</p>
        ) : (
          <>
            <table className={`grid ${styles.grid}`}>
              <thead>
                <tr>
                  <th>assessment</th>
                  <th className={styles.drawn} aria-hidden>
                    <div className={styles.axis}>
                      {Array.from({ length: Math.floor(most / tick) + 1 }, (_, i) => (
                        <span key={i} style={{ left: `${(100 * (8 + ((i * tick) / most) * 444)) / 460}%` }}>
                          {Math.round(100 * i * tick)}
                        </span>
                      ))}
                    </div>
                  </th>
                  <th className="number">should carry</th>
                  <th className="number">carries</th>
                  <th className="number">decides</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((r) => (
                  <tr key={r.id} className="pick" aria-selected={r.id === chosen} onClick={() => setWanted(r.id)}>
                    <td>
                      <button className="row-name" onClick={() => setWanted(r.id)}>
                        {r.title}
                      </button>
                    </td>
                    <td className="p-0">
                      <WeightLine row={r} most={most} />
                    </td>
                    <td className="number">{r.should === null ? 'bonus' : percent(r.should)}</td>
                    <td className={`number ${r.elsewhere.length > 0 ? 'ochre' : 'soft'}`}>{carriesWords(r)}</td>
                    <td className={`number fw-semibold ${r.off ? 'ochre' : ''}`}>{percent(r.decides)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="small soft mt-2 d-flex gap-4 flex-wrap">
              <span>tick: what the plan says</span>
              <span>□ a section where the plan carries another share</span>
              <span>bubble: its share in how the {counted(figures.finals, 'final')} differ</span>
              <span className="ms-auto">
                <TakeOut
                  table={() => ({
                    title: `${table.head.code} what decides the grade`,
                    header: ['assessment', 'should carry %', 'decides %', 'sd of its marks %', 'carries elsewhere'],
                    rows: rows.map((r) => [
                      r.title,
                      r.should === null ? null : Number((100 * r.should).toFixed(2)),
                      r.decides === null ? null : Number((100 * r.decides).toFixed(2)),
                      r.sd === null ? null : Number(r.sd.toFixed(2)),
                      r.elsewhere.map((e) => `${e.name} ${percent(e.share)}`).join(', '),
                    ]),
                  })}
                />
              </span>
            </p>
          </>
        )}
      </main>
      <CloseUp>{figures.chosen && <WeightCloseUp figures={figures} chosen={figures.chosen} />}</CloseUp>
    </div>
  )
}

function carriesWords({ elsewhere }: WeighedAssessment): string {
  const [first] = elsewhere
  if (!first) return 'all alike'
  return elsewhere.length === 1 ? `${first.name} ${percent(first.share)}` : counted(elsewhere.length, 'section')
}
