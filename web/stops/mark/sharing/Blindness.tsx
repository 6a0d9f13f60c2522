import { Form } from 'react-bootstrap'
import { routes, type Sees, type Sharing } from '#contract'
import { addressOf, call } from '../../../api/client'
import { useWrites } from '../../../saving/writes'

const SEES: [keyof Sees, string][] = [
  ['marks', 'the mark and the levels'],
  ['comments', 'comments for the student'],
  ['notes', 'notes for markers'],
]

/** What markers see: names, and other readings of the same script once theirs is handed in. */
export function Blindness({ courseId, sharing, decides }: { courseId: string; sharing: Sharing; decides: boolean }) {
  const { write } = useWrites()
  const { id, title, blind, sees } = sharing.assessment
  // What stands is asked for when its turn comes: two ticks in a row must not take each other back.
  const set = (patch: { blind?: boolean; sees?: Partial<Sees> }, back: typeof patch) => {
    const send = async (p: typeof patch) => {
      const now = (await call(routes.sharing, { params: { courseId, assessmentId: id } })).assessment
      const body = { blind: p.blind ?? now.blind, sees: { ...now.sees, ...p.sees } }
      await call(routes.setBlindness, { params: { courseId, assessmentId: id }, body })
      return true
    }
    void write(
      `what markers of ${title} see`,
      () => send(patch),
      () => send(back),
    )
  }
  return (
    <section>
      <h2>What markers see</h2>
      <Form.Check
        id="blind"
        label="numbers in the place of names"
        checked={blind}
        disabled={!decides}
        onChange={(e) => set({ blind: e.target.checked }, { blind })}
      />
      <p className="soft small mb-1 mt-2">Of another reading of the same script, once theirs is handed in and never before:</p>
      {SEES.map(([key, words]) => (
        <Form.Check
          key={key}
          id={`sees-${key}`}
          label={words}
          checked={sees[key]}
          disabled={!decides}
          onChange={(e) => set({ sees: { [key]: e.target.checked } }, { sees: { [key]: sees[key] } })}
        />
      ))}
      <Form.Check
        id="sees-between"
        className="mt-2"
        label="two whose readings lie over tolerance see both marks, and may agree on one between them"
        checked={sees.between ?? false}
        disabled={!decides}
        onChange={(e) => set({ sees: { between: e.target.checked } }, { sees: { between: sees.between ?? false } })}
      />
      {/* Last, so that no box moves from under the pointer as it comes. */}
      {blind && decides && (
        <p className="soft small mb-1 mt-2">
          Work on paper has to bear the numbers that stand in the place of names.{' '}
          <a href={addressOf(routes.blindKey, { courseId, assessmentId: id })} download>
            Export the key to label papers by
          </a>
          ; that it was exported stands on the audit list.
        </p>
      )}
    </section>
  )
}
