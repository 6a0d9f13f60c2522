import { useRef, type ReactNode } from 'react'
import { flushSync } from 'react-dom'
import { criterionMaximum } from '#core/scales'
import type { Judged, StandardInUse, StandardUse } from '#contract'
import { NumberField } from '../NumberField'
import { numeral } from '../format'
import { DoneOrNot } from './DoneOrNot'
import { JudgeCriterion } from './JudgeCriterion'
import { Track } from './Track'
import styles from './judge.module.css'

const isNumbered = (labels: readonly { label: string }[]) => labels.every((l) => /^\d+$/.test(l.label.trim()))

/**
 * The label that a digit means: on a scale of points the one that is called so, or that begins with what was typed before; else
 * the one in that place. With it whether there is nothing more to type.
 */
function labelFor<L extends { label: string }>(labels: readonly L[], digit: string, before: string): [L | undefined, boolean] {
  if (!isNumbered(labels)) return [labels[Number(digit) - 1], true]
  const called = (name: string) => labels.find((l) => l.label.trim() === name)
  const longer = called(before + digit)
  return [longer ?? called(digit), longer ? !labels.some((l) => l.label.startsWith(before + digit) && l !== longer) : labels.length <= 10]
}

/** Where judging a criterion begins: its levels, or the field of its points. */
export const focusable = (criterion: HTMLElement): HTMLElement | null =>
  criterion.querySelector<HTMLElement>('[role="radio"][tabindex="0"]') ?? criterion.querySelector<HTMLElement>('input')

interface Props {
  standard: StandardInUse | null
  /** Without a standard: done or not, instead of a mark. */
  completion?: boolean
  outOf: number
  use: Pick<StandardUse, 'hidePoints' | 'hideWords'>
  judged: Judged
  onChange?: ((judged: Judged) => void) | undefined
  /** What stands under a criterion. */
  below?: ((criterionId: string, title: string) => ReactNode) | undefined
  /** Another reading of it to stand beside this one. */
  compared?: { judged: Judged; whose: string } | undefined
}

/** A script being judged by whatever it is marked by: rulers, free points, one label, or a mark. Without `onChange` it is shown. */
export function Judge({ standard, completion, outOf, use, judged, onChange, below, compared }: Props) {
  const list = useRef<HTMLDivElement>(null)
  /** Digits of a label typed so far, on a scale of points with more than one digit. */
  const typed = useRef('')
  const disabled = !onChange
  const pick = (id: string, points: number | undefined) => {
    const picks = { ...judged.picks }
    if (points === undefined) delete picks[id]
    else picks[id] = points
    onChange?.({ ...judged, picks })
  }
  /** Down from the last criterion goes to what comes after: handing in. */
  const walk = (from: string, by: 1 | -1) => {
    const all = [...(list.current?.querySelectorAll<HTMLElement>('[data-criterion]') ?? [])]
    const at = all.findIndex((s) => s.dataset.criterion === from)
    const next = all[at + by]
    const target = next && focusable(next)
    if (target) {
      target.focus({ preventScroll: true })
      next!.scrollIntoView({ block: 'nearest' })
    } else if (by > 0) list.current?.closest('section, .exemplar-judged')?.querySelector<HTMLElement>('[data-after-judging]')?.focus()
  }
  const whose = compared?.whose ?? ''

  if (!standard && completion) return <DoneOrNot outOf={outOf} judged={judged} onChange={onChange} />
  if (!standard)
    return (
      <p className={styles.judgeMark}>
        Mark{' '}
        {disabled ? (
          <b>{numeral(judged.mark)}</b>
        ) : (
          <NumberField
            label="Mark"
            className="short"
            value={judged.mark}
            optional
            min={0}
            max={outOf}
            onWalk={(by, from) =>
              by > 0 && from.closest('section, .exemplar-judged')?.querySelector<HTMLElement>('[data-after-judging]')?.focus()
            }
            onCommit={(mark) => onChange({ ...judged, mark })}
          />
        )}{' '}
        <span className="soft">of {numeral(outOf)}</span>
      </p>
    )
  if (standard.kind === 'scale') {
    const labels = [...standard.body.labels].reverse()
    const numbered = isNumbered(standard.body.labels)
    return (
      <fieldset
        className={styles.judgeScale}
        aria-label={standard.title}
        onKeyDown={(e) => {
          if (disabled || !/^[0-9]$/.test(e.key)) return
          const [label, whole] = labelFor(standard.body.labels, e.key, typed.current)
          if (!label) return
          e.preventDefault()
          typed.current = whole ? '' : label.label
          flushSync(() => onChange({ ...judged, judgement: label.label }))
          if (!whole) return
          e.currentTarget.closest('section, .exemplar-judged')?.querySelector<HTMLElement>('[data-after-judging]')?.focus()
        }}
      >
        <legend className="small soft">
          {judged.judgement === null ? (
            <span className="ochre">No mark is given until a judgement is.</span>
          ) : (
            'The judgement gives the mark; notes beside it never do.'
          )}
        </legend>
        {labels.map((l, i) => (
          <label key={l.label} className={judged.judgement === l.label ? styles.on : ''}>
            <input
              type="radio"
              name={`judgement-${standard.id}-${whose}`}
              checked={judged.judgement === l.label}
              disabled={disabled}
              onChange={() => onChange?.({ ...judged, judgement: l.label })}
              data-nth={i}
            />{' '}
            <span dir="auto">
              {!disabled && labels.length <= 9 && !numbered && <kbd aria-hidden>{labels.length - i}</kbd>} {l.label}
            </span>
            {!use.hidePoints && <span className="number soft">{numeral((l.percent / 100) * outOf)}</span>}
            {compared?.judged.judgement === l.label && <i className="soft small">{whose}</i>}
          </label>
        ))}
      </fieldset>
    )
  }
  const { criteria } = standard.body
  const longest = Math.max(
    1,
    ...(standard.kind === 'rubric' ? standard.body.criteria.map(criterionMaximum) : standard.body.criteria.map((c) => c.max)),
  )
  return (
    <div ref={list} className="judge">
      {standard.kind === 'rubric'
        ? standard.body.criteria.map((c) => {
            const other = compared?.judged.picks[c.id]
            return (
              <JudgeCriterion
                key={c.id}
                criterion={c}
                longest={longest}
                points={judged.picks[c.id]}
                compared={other === undefined ? undefined : { points: other, whose }}
                shows={{ points: !use.hidePoints, words: !use.hideWords }}
                disabled={disabled}
                descending={!!standard.body.descending}
                onPick={(points) => pick(c.id, points)}
                onWalk={(by) => walk(c.id, by)}
                below={below?.(c.id, c.title)}
              />
            )
          })
        : standard.body.criteria.map((c) => {
            const points = judged.picks[c.id]
            const other = compared?.judged.picks[c.id]
            return (
              <section key={c.id} className={styles.judgeCriterion} data-criterion={c.id}>
                <h3>
                  {c.title}
                  <span className="float-end number fw-normal">
                    {points === undefined && <span className="ochre small">not judged </span>}
                    {disabled ? (
                      <b>{numeral(points)}</b>
                    ) : (
                      <NumberField
                        label={`Points of ${c.title}`}
                        className="short"
                        optional
                        value={points ?? null}
                        min={0}
                        max={c.max}
                        onWalk={(by) => walk(c.id, by)}
                        onCommit={(p) => pick(c.id, p ?? undefined)}
                      />
                    )}{' '}
                    <span className="soft">of {numeral(c.max)}</span>
                  </span>
                </h3>
                <Track
                  stops={[{ points: 0, to: c.max }, { points: c.max }]}
                  longest={longest}
                  points={points}
                  compared={other === undefined ? undefined : { points: other, whose }}
                  hidePoints={use.hidePoints}
                />
                {!use.hideWords && <p className="soft small mb-1">{c.words}</p>}
                {c.notes && <p className="small mb-1">{c.notes}</p>}
                {below?.(c.id, c.title)}
              </section>
            )
          })}
      {criteria.length === 0 && <p className="soft">There is no criterion in it yet.</p>}
    </div>
  )
}
