import { flushSync } from 'react-dom'
import type { Judged } from '#contract'
import styles from './judge.module.css'

const CHOICES = [
  { key: '1', word: 'done', share: 1 },
  { key: '0', word: 'not done', share: 0 },
] as const

/** Whether the work was done: all that it is marked out of, or nothing. By key 1 and 0, as it is typed in the sheet. */
export function DoneOrNot({
  outOf,
  judged,
  onChange,
}: {
  outOf: number
  judged: Judged
  onChange?: ((judged: Judged) => void) | undefined
}) {
  const give = (share: number) => onChange?.({ ...judged, mark: share * outOf })
  return (
    <fieldset
      className={styles.judgeScale}
      aria-label="Done or not"
      onKeyDown={(e) => {
        const choice = CHOICES.find((c) => c.key === e.key)
        if (!choice || !onChange) return
        e.preventDefault()
        flushSync(() => give(choice.share))
        e.currentTarget.closest('section')?.querySelector<HTMLElement>('[data-after-judging]')?.focus()
      }}
    >
      <legend className="small soft">
        {judged.mark === null ? <span className="ochre">Neither is chosen yet.</span> : 'Done gives all it is marked out of.'}
      </legend>
      {CHOICES.map(({ key, word, share }) => {
        const on = judged.mark === share * outOf
        return (
          <label key={key} className={on ? styles.on : ''}>
            <input type="radio" name="done-or-not" checked={on} disabled={!onChange} onChange={() => give(share)} />
            <span>
              {onChange && <kbd aria-hidden>{key}</kbd>} {word}
            </span>
          </label>
        )
      })}
    </fieldset>
  )
}
