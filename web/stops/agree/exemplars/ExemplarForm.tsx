import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type Exemplar, type ExemplarBody, type Exemplars } from '#contract'
import { call } from '../../../api/client'
import { useKeys } from '../../../settings/keys'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { numeral } from '../../../parts/format'
import { Judge } from '../../../parts/judge/Judge'
import { markFor, NOTHING_JUDGED, unjudged } from '../../../parts/judge/judged'
import styles from '../agree.module.css'

const FIRST_VERSION = 1
const SEES_ALL = { hidePoints: false, hideWords: false }

/** An exemplar being made or edited: the text, what was agreed on it, and why. */
export function ExemplarForm({
  courseId,
  exemplars,
  exemplar: x,
  left,
  onDone,
}: {
  courseId: string
  exemplars: Exemplars
  exemplar: Exemplar | null
  /** What was typed and left unsaved, by what it is about. */
  left: Map<string, ExemplarBody>
  onDone: (id: string | null) => void
}) {
  const { write } = useWrites()
  const { standard, assessment } = exemplars
  const about = x?.id ?? `new ${assessment.id}`
  const [begun, setBegun] = useState(left.has(about))
  const asItIs = (): ExemplarBody => ({
    label: x?.label ?? `Exemplar ${String.fromCharCode(65 + (exemplars.exemplars.length % 26))}`,
    text: x?.text ?? '',
    agreed: x?.agreed ? { picks: x.agreed.picks, judgement: x.agreed.judgement, mark: x.agreed.mark } : NOTHING_JUDGED,
    note: x?.agreed?.note ?? '',
    shown: x?.shown ?? 'nothing',
  })
  const [body, setBody] = useState(() => left.get(about) ?? asItIs())
  const set = (patch: Partial<ExemplarBody>) => {
    const next = { ...body, ...patch }
    left.set(about, next)
    setBody(next)
  }
  const mark = markFor(standard, body.agreed, assessment.outOf)
  const lacks = [
    ...(body.text.trim() === '' ? ['the script’s text'] : []),
    ...unjudged(standard, body.agreed),
    ...(body.note.trim() === '' ? ['why'] : []),
  ]
  const save = async (away = false) => {
    /** Puts the exemplar as it is told, whose every edit raises its version. */
    const putting = (exemplarId: string, begin: number) => {
      let version = begin
      return async (next: ExemplarBody, isAway: boolean) => {
        await call(routes.editExemplar, { params: { courseId, exemplarId }, body: { ...next, version, away: isAway } })
        version++
        return true
      }
    }
    if (x) {
      const put = putting(x.id, x.version)
      const before = asItIs()
      const done = await write(
        `${away ? 'put away' : 'edit'} ${x.label}`,
        () => put(away ? before : body, away),
        () => put(before, false),
      )
      if (!done) return
      left.delete(about)
      return onDone(away ? null : x.id)
    }
    const made = await write(
      'add an exemplar',
      ask(routes.addExemplar, { params: { courseId, assessmentId: assessment.id }, body }),
      ({ id }) => putting(id, FIRST_VERSION)(body, true),
    )
    if (!made) return
    left.delete(about)
    onDone(made.id)
  }
  useKeys([
    { key: 'Escape', does: 'leave it', inFields: true, run: () => onDone(null) },
    { key: 'Ctrl+Enter', does: 'save the exemplar', inFields: true, run: () => lacks.length === 0 && void save() },
  ])
  return (
    <div className={styles.exemplar}>
      <div className="d-flex flex-column gap-2">
        {begun && (
          <p className="note mb-0" role="status">
            What you had begun is here again.{' '}
            <button
              className="quiet-button"
              onClick={() => {
                left.delete(about)
                setBegun(false)
                setBody(asItIs())
              }}
            >
              Begin anew
            </button>
          </p>
        )}
        <Form.Group controlId="exemplar-label">
          <Form.Label className="soft small mb-0">Called</Form.Label>
          <Form.Control size="sm" autoFocus value={body.label} maxLength={120} onChange={(e) => set({ label: e.target.value })} />
        </Form.Group>
        <Form.Group controlId="exemplar-text" className="d-flex flex-column flex-grow-1">
          <Form.Label className="soft small mb-0">The script{x && x.readBy > 0 && `, read by ${x.readBy}: it stays as it is`}</Form.Label>
          <Form.Control
            as="textarea"
            className={styles.scriptField}
            readOnly={!!x && x.readBy > 0}
            placeholder="Paste the text here, without a name in it."
            maxLength={20_000}
            dir="auto"
            value={body.text}
            onChange={(e) => set({ text: e.target.value })}
          />
        </Form.Group>
      </div>
      <div className="exemplar-judged">
        <Judge standard={standard} outOf={assessment.outOf} use={SEES_ALL} judged={body.agreed} onChange={(agreed) => set({ agreed })} />
        <Form.Group controlId="exemplar-note" className="mt-2">
          <Form.Label className="soft small mb-0">Why it is worth that</Form.Label>
          <Form.Control
            as="textarea"
            rows={3}
            size="sm"
            maxLength={4000}
            dir="auto"
            value={body.note}
            onChange={(e) => set({ note: e.target.value })}
          />
        </Form.Group>
        <Form.Group controlId="exemplar-shown" className="mt-2 d-flex gap-2 align-items-baseline">
          <Form.Label className="soft small mb-0 text-nowrap">Students see</Form.Label>
          <Form.Select size="sm" value={body.shown} onChange={(e) => set({ shown: e.target.value as ExemplarBody['shown'] })}>
            <option value="nothing">nothing of it</option>
            <option value="mark">the script and its mark</option>
            <option value="levels">the script, its mark, the levels and why</option>
          </Form.Select>
        </Form.Group>
        <div className="judge-end">
          <span>
            {lacks.length > 0 ? (
              <span className="ochre small">Still to say: {lacks.join(', ')}</span>
            ) : (
              <>
                <b>{numeral(mark)}</b> of {numeral(assessment.outOf)}
              </>
            )}
          </span>
          <span className="buttons">
            {x && (
              <Button variant="link" onClick={() => void save(true)}>
                Put it away
              </Button>
            )}
            <Button variant="link" onClick={() => onDone(null)}>
              Leave it
            </Button>
            <Button data-after-judging disabled={lacks.length > 0} onClick={() => void save()}>
              Save it
            </Button>
          </span>
        </div>
      </div>
    </div>
  )
}
