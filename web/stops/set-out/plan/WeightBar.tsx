import { useRef, useState } from 'react'
import type { Component } from '#contract'
import { numeral } from '../../../parts/format'
import styles from './plan.module.css'

interface Props {
  components: Component[]
  onChange: (changes: { component: Component; weight: number }[], label: string) => void
  disabled: boolean
  /** Brings the weights to 100; null where there is nothing to spread. */
  spread: (() => void) | null
}

const STEPS = ['var(--step-1)', 'var(--step-2)', 'var(--step-3)', 'var(--step-4)', 'var(--step-5)']

/** The ordinary components as one proportional bar. A divider moves weight between its two neighbours. */
export function WeightBar({ components, onChange, disabled, spread }: Props) {
  const ordinary = components.filter((c) => !c.bonus)
  const sum = ordinary.reduce((s, c) => s + (c.weight ?? 0), 0)
  const bar = useRef<HTMLDivElement>(null)
  const [pull, setPull] = useState<{ place: number; by: number } | null>(null)
  const weightOf = (i: number) => (ordinary[i]!.weight ?? 0) + (pull?.place === i ? pull.by : pull?.place === i - 1 ? -pull.by : 0)
  const limit = (at: number, by: number) => Math.min(ordinary[at + 1]!.weight ?? 0, Math.max(-(ordinary[at]!.weight ?? 0), by))
  const move = (at: number, by: number) => {
    if (by === 0) return
    const [left, right] = [ordinary[at]!, ordinary[at + 1]!]
    const weigh = (c: Component, change: number) => ({ component: c, weight: Number(((c.weight ?? 0) + change).toFixed(3)) })
    onChange([weigh(left, by), weigh(right, -by)], `weigh ${left.title} against ${right.title}`)
  }
  let start = 0
  return (
    <div className={styles.weights}>
      <div className="filled" ref={bar}>
        {ordinary.map((c, i) => {
          const w = weightOf(i)
          start += w
          return (
            <span key={c.id} style={{ display: 'contents' }}>
              <div
                className={`${styles.part} ${c.weight === null ? styles.none : ''}`}
                style={{ flexGrow: Math.max(w, sum * 0.02), background: STEPS[Math.min(4, Math.floor((i * 5) / ordinary.length))] }}
                title={`${c.title} ${numeral(w)}`}
              >
                <span className={styles.name}>{c.title}</span>
                <b className="number">{c.weight === null ? '?' : numeral(w)}</b>
              </div>
              {i < ordinary.length - 1 && (
                <button
                  className={styles.divider}
                  disabled={disabled}
                  role="slider"
                  aria-label={`Between ${c.title} and ${ordinary[i + 1]!.title}`}
                  aria-valuenow={start}
                  aria-valuemin={0}
                  aria-valuemax={sum}
                  aria-valuetext={`${c.title} ${numeral(w)}, ${ordinary[i + 1]!.title} ${numeral(weightOf(i + 1))}`}
                  onKeyDown={(e) => {
                    const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -5, PageUp: 5 }[e.key]
                    if (by === undefined) return
                    e.preventDefault()
                    move(i, limit(i, by))
                  }}
                  onPointerDown={(e) => {
                    e.currentTarget.setPointerCapture(e.pointerId)
                    setPull({ place: i, by: 0 })
                    const from = e.clientX
                    const perPixel = sum / bar.current!.clientWidth
                    const target = e.currentTarget
                    const drag = (m: globalThis.PointerEvent) =>
                      setPull({ place: i, by: limit(i, Math.round((m.clientX - from) * perPixel)) })
                    target.addEventListener('pointermove', drag)
                    target.addEventListener(
                      'pointerup',
                      (u: globalThis.PointerEvent) => {
                        target.removeEventListener('pointermove', drag)
                        setPull(null)
                        move(i, limit(i, Math.round((u.clientX - from) * perPixel)))
                      },
                      { once: true },
                    )
                  }}
                />
              )}
            </span>
          )
        })}
      </div>
      <div className="d-flex justify-content-between small soft">
        <span>pull a divider, use the arrow keys on it, or type below: weight moves between its neighbours</span>
        <span className="text-nowrap">
          <span className={Math.abs(sum - 100) > 1e-9 ? 'ochre fw-semibold' : ''}>
            sum {numeral(sum)}
            {Math.abs(sum - 100) > 1e-9 && ': shares are taken of this sum'}
          </span>
          {spread && (
            <button className="quiet-button ms-2" onClick={spread}>
              {sum > 100 ? 'scale to 100' : `spread the remaining ${numeral(100 - sum)}`}
            </button>
          )}
        </span>
      </div>
    </div>
  )
}
