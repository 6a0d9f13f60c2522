import { useRef, type KeyboardEvent, type ReactNode } from 'react'
import { flushSync } from 'react-dom'
import { criterionMaximum, levelText } from '#core/scales'
import type { RubricCriterion } from '#contract'
import { NumberField } from '../NumberField'
import { LevelWords } from '../LevelWords'
import { numeral, pointsGiven, signed } from '../format'
import { Track, type Compared } from './Track'
import styles from './judge.module.css'

const STEP = 0.5

export interface Shows {
  points: boolean
  words: boolean
}

interface Props {
  criterion: RubricCriterion
  longest: number
  points: number | undefined
  compared?: Compared | undefined
  shows: Shows
  disabled: boolean
  descending: boolean
  onPick: (points: number | undefined) => void
  /** To the criterion before or after. */
  onWalk: (by: 1 | -1) => void
  below?: ReactNode
}

/** A criterion to be judged: its ruler, and a level to choose under it; any point inside one where it has ranges. */
export function JudgeCriterion({ criterion: c, longest, points, compared, shows, disabled, descending, onPick, onWalk, below }: Props) {
  const group = useRef<HTMLDivElement>(null)
  const order = c.levels.map((l, i) => ({ l, i }))
  if (descending) order.reverse()
  const at =
    points === undefined
      ? -1
      : c.levels.findIndex((l) => points === l.points || (c.ranges && points >= l.points && points <= (l.to ?? l.points)))
  const inRange = at >= 0 && c.ranges && (c.levels[at]!.to ?? 0) > c.levels[at]!.points ? c.levels[at]! : null
  const top = criterionMaximum(c)
  const given = (p: number) => pointsGiven(c, p)
  const choose = (i: number) => {
    const level = c.levels[Math.max(0, Math.min(c.levels.length - 1, i))]
    if (!level || disabled) return
    onPick(level.points)
    group.current?.querySelector<HTMLElement>(`[data-level="${c.levels.indexOf(level)}"]`)?.focus()
  }
  const onKeyDown = (e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey || (e.target as HTMLElement).matches('input, textarea')) return
    const toward = descending ? -1 : 1
    const sideways = { ArrowRight: toward, ArrowLeft: -toward }[e.key]
    const digit = /^[1-9]$/.test(e.key) ? Number(e.key) : null
    if (sideways !== undefined) choose(at < 0 ? (sideways > 0 ? 0 : c.levels.length - 1) : at + sideways)
    else if (e.key === 'ArrowDown' || e.key === 'Enter') onWalk(1)
    else if (e.key === 'ArrowUp') onWalk(-1)
    else if ((e.key === 'Backspace' || e.key === 'Delete') && !disabled) onPick(undefined)
    else if (digit !== null && digit <= c.levels.length && !disabled) {
      const level = c.levels[digit - 1]!
      // Handing in opens with the last pick, and is where the last key leads.
      flushSync(() => onPick(level.points))
      // A digit always goes on; who wants the exact point inside a range comes back, or types it.
      onWalk(1)
    } else if (inRange && (e.key === '+' || e.key === '-')) {
      const next = points! + (e.key === '+' ? STEP : -STEP)
      if (next >= inRange.points && next <= inRange.to!) onPick(next)
    } else return
    e.preventDefault()
    e.stopPropagation()
  }
  return (
    <section className={styles.judgeCriterion} data-criterion={c.id}>
      <h3>
        {c.title}
        {c.penalty && <span className="soft small fw-normal"> taken off</span>}
        <span className="float-end number fw-normal">
          {points === undefined ? (
            <span className="ochre small">not judged</span>
          ) : shows.points ? (
            <>
              {inRange && !disabled ? (
                <NumberField
                  label={`Points of ${c.title}`}
                  className="short"
                  value={points}
                  min={inRange.points}
                  max={inRange.to!}
                  step={STEP}
                  onWalk={onWalk}
                  onCommit={(p) => p !== null && onPick(p)}
                />
              ) : (
                <b>{given(points)}</b>
              )}{' '}
              <span className="soft">{c.penalty ? `up to ${numeral(top)} off` : `of ${numeral(top)}`}</span>
            </>
          ) : (
            <span className="soft small">judged</span>
          )}
          {compared && points !== undefined && points !== compared.points && shows.points && (
            <b className="ochre"> {signed(c.penalty ? compared.points - points : points - compared.points)}</b>
          )}
        </span>
      </h3>
      {shows.words && c.description && (
        <p className="soft small mb-1" dir="auto">
          {c.description}
        </p>
      )}
      <Track
        stops={c.levels.map((l) => ({ points: l.points, to: c.ranges ? l.to : undefined }))}
        longest={longest}
        points={points}
        compared={compared}
        hidePoints={!shows.points}
        descending={descending}
        sign={c.penalty ? '−' : ''}
      />
      <div
        ref={group}
        role="radiogroup"
        aria-label={c.title}
        aria-disabled={disabled}
        className={styles.judgeLevels}
        style={{ gridTemplateColumns: `repeat(${c.levels.length}, minmax(0, 1fr))` }}
        onKeyDown={onKeyDown}
      >
        {order.map(({ l, i }, nth) => (
          <button
            key={i}
            type="button"
            role="radio"
            data-level={i}
            aria-checked={at === i}
            aria-disabled={disabled}
            aria-label={`${i + 1}: ${shows.words ? levelText(l) : ''}${shows.points ? ` ${given(l.points)} points` : ''}${compared?.points === l.points ? `, ${compared.whose}` : ''}`}
            tabIndex={at === i || (at < 0 && nth === 0) ? 0 : -1}
            onClick={() => !disabled && onPick(at === i && points === l.points ? undefined : l.points)}
          >
            {!disabled && <kbd aria-hidden>{i + 1}</kbd>}{' '}
            <span dir="auto">{shows.words ? <LevelWords level={l} /> : `level ${i + 1}`}</span>
          </button>
        ))}
      </div>
      {below}
    </section>
  )
}
