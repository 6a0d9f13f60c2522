import { useDeferredValue, useEffect, useState } from 'react'
import { Form } from 'react-bootstrap'
import type { UseFormRegisterReturn } from 'react-hook-form'
import { MIN_PASSPHRASE } from '#contract'
import styles from './session.module.css'

const WORDS = ['tried first by whoever guesses', 'guessed early', 'holds for a while', 'hard to guess', 'very hard to guess']

/** A new passphrase, with how hard it is to guess in words as it is typed. */
export function PassphraseField({
  id,
  label,
  field,
  value,
  own,
  error,
}: {
  id: string
  label: string
  field: UseFormRegisterReturn
  value: string
  /** Name and sign-in, which make it easier to guess. */
  own: string[]
  error?: { message?: string }
}) {
  const [shown, setShown] = useState(false)
  return (
    <Form.Group controlId={id}>
      <Form.Label className="soft small mb-0">{label}</Form.Label>
      <div className="d-flex gap-2">
        <Form.Control
          type={shown ? 'text' : 'password'}
          {...field}
          autoComplete="new-password"
          aria-describedby={`${id}-hardness`}
          isInvalid={!!error}
        />
        <button type="button" className="quiet-button" aria-pressed={shown} onClick={() => setShown(!shown)}>
          {shown ? 'Hide' : 'Show'}
        </button>
      </div>
      <Hardness id={`${id}-hardness`} value={value} own={own} />
      {error && <div className="invalid-feedback d-block">{error.message}</div>}
    </Form.Group>
  )
}

/** A short ruler with a bubble on it, and what that means. */
function Hardness({ id, value, own }: { id: string; value: string; own: string[] }) {
  const typed = useDeferredValue(value)
  const [score, setScore] = useState<number | null>(null)
  const names = own.join('\n')
  useEffect(() => {
    let last = true
    // The words that are tried first are many, and wanted on this page alone.
    if (typed === '') setScore(null)
    else
      void import('./hardness').then(
        ({ hardness }) => last && setScore(hardness(typed, names.split('\n'))),
        () => undefined,
      )
    return () => {
      last = false
    }
  }, [typed, names])
  const missing = MIN_PASSPHRASE - typed.length
  const says =
    typed === ''
      ? `${MIN_PASSPHRASE} characters or more: a few words that do not belong together.`
      : missing > 0
        ? `${missing} more ${missing === 1 ? 'character' : 'characters'}`
        : score === null
          ? ''
          : WORDS[score]!
  return (
    <div id={id} className={`${styles.hardness} small soft`} role="status">
      <svg width="92" height="14" viewBox="-2 0 92 14" aria-hidden>
        <line x1="4" x2="84" y1="7" y2="7" stroke="var(--ink)" />
        {[0, 1, 2, 3, 4].map((i) => (
          <line key={i} x1={4 + 20 * i} x2={4 + 20 * i} y1={i === 2 ? 1 : 4} y2={i === 2 ? 13 : 10} stroke="var(--ink)" />
        ))}
        {score !== null && <circle cx={4 + 20 * score} cy="7" r="5" fill="var(--bubble)" stroke="var(--ink)" />}
      </svg>
      <span>{says}</span>
    </div>
  )
}
