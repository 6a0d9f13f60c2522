import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { METHOD_KINDS, methodOf, type MethodKind } from '#core/rescale'
import { useKeys } from '../../settings/keys'
import { numeral } from '../../parts/format'
import { MethodForm } from './methods/forms'
import { SectionsPick } from './SectionsPick'
import type { RescaleFigures } from './figures'
import type { Rescaling } from './useRescaling'
import { waysFor, WRONGS, type Wrong } from './wrongs'
import styles from './rescale.module.css'
import { KeyCap } from '../../settings/KeyCap'

interface Props {
  rescaling: Rescaling
  figures: RescaleFigures
  /** A way that is chosen and cannot be tried before more is said. */
  choosing: MethodKind | null
  onStart: (kind: MethodKind) => void
  onChosen: () => void
  point: number
  onPoint: (at: number) => void
}

/** Keys of the ways, in the order of all of them. */
const KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0', '-']

/** How marks are rescaled: found by what is wrong or by name, with what each way does, takes for granted, and is not for. */
export function How({ rescaling, figures, choosing, onStart, onChosen, point, onPoint }: Props) {
  const { chosen, set, drop, isNew } = rescaling
  const { subject } = figures
  const total = subject.assessmentId === null
  const [wrong, setWrong] = useState<Wrong>('any')
  const offered = waysFor(wrong, total)
  useKeys(
    METHOD_KINDS.flatMap((kind, i) =>
      waysFor('any', total).includes(kind) ? [{ key: KEYS[i]!, does: methodOf(kind).title, run: () => onStart(kind) }] : [],
    ),
  )
  const kind = choosing ?? chosen?.method.kind ?? null
  return (
    <section>
      <div className={styles.howHead}>
        <h2>How</h2>
        {!total && (
          <label className="small">
            <span className="soft">what is wrong: </span>
            <Form.Select className="d-inline-block w-auto" size="sm" value={wrong} onChange={(e) => setWrong(e.target.value as Wrong)}>
              {Object.entries(WRONGS).map(([value, { words }]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </Form.Select>
          </label>
        )}
      </div>
      <div className={styles.ways} role="group" aria-label="How to rescale">
        {offered.map((way) => (
          <button key={way} aria-pressed={kind === way} onClick={() => onStart(way)} title={methodOf(way).says}>
            {methodOf(way).title} <KeyCap cap={KEYS[METHOD_KINDS.indexOf(way)]!} />
          </button>
        ))}
      </div>
      {kind === null ? (
        <p className="soft small mt-2 mb-0">
          Choose a way: it opens as a trial, and nothing changes until you adopt it. The marks as they were given always stay beside.
        </p>
      ) : (
        <>
          <p className="small mt-2 mb-1">
            {methodOf(kind).says} <span className="soft">Takes for granted: {methodOf(kind).assumes}</span>{' '}
            <span className="soft">Not when: {methodOf(kind).notWhen}</span>
          </p>
          <MethodForm kind={kind} rescaling={rescaling} figures={figures} point={point} onPoint={onPoint} onChosen={onChosen} />
          {chosen && kind === chosen.method.kind && (
            <div className={styles.options}>
              <Form.Check
                id="never-lower"
                label={total ? 'never lower a percent' : 'never lower a mark'}
                checked={chosen.neverLower}
                onChange={(e) => set({ neverLower: e.target.checked })}
              />
              {!total && (
                <>
                  <Form.Check
                    id="stay-within"
                    label={`stay within 0 to ${numeral(subject.outOf)}`}
                    checked={chosen.above === 'keep within'}
                    onChange={(e) => set({ above: e.target.checked ? 'keep within' : 'allow' })}
                  />
                  <label>
                    <span className="soft">round to </span>
                    <Form.Select
                      className="d-inline-block w-auto"
                      size="sm"
                      value={chosen.step ?? ''}
                      onChange={(e) => set({ step: e.target.value === '' ? null : Number(e.target.value) })}
                    >
                      <option value="">nothing</option>
                      <option value="0.1">0.1</option>
                      <option value="0.5">0.5</option>
                      <option value="1">1</option>
                    </Form.Select>
                  </label>
                  <SectionsPick figures={figures} chosen={chosen.sectionIds} onChoose={(sectionIds) => set({ sectionIds })} />
                </>
              )}
              <Button size="sm" variant="link" onClick={() => drop(chosen.id)}>
                {isNew ? 'Drop it' : 'Leave it as adopted'} <kbd>Del</kbd>
              </Button>
            </div>
          )}
        </>
      )}
    </section>
  )
}
