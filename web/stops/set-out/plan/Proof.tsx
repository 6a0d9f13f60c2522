import { useMemo, useState } from 'react'
import { Form } from 'react-bootstrap'
import { weightProof, type Course } from '#core/grades'
import type { Plan } from '#contract'
import { fixed } from '../../../parts/format'

/** The weight proof in a table anyone can read, run by the real engine. */
export function Proof({ course, plan }: { course: Course; plan: Plan }) {
  const [chosen, setSectionId] = useState('')
  const sectionId = plan.sections.some((s) => s.id === chosen) ? chosen : (plan.sections[0]?.id ?? '')
  const proof = useMemo(() => {
    try {
      return weightProof(course, sectionId)
    } catch {
      return null
    }
  }, [course, sectionId])
  // One pair a component is enough to show what a drop absorbs.
  const componentOf = (id: string) => plan.assessments.find((a) => a.id === id)?.componentId
  const pairs = new Set<string | undefined>()
  const shown = (proof?.rows ?? []).filter((r) => {
    if (r.zeroed.length === 1) return true
    const component = componentOf(r.zeroed[0]!)
    return !pairs.has(component) && pairs.add(component)
  })
  const title = (id: string) => plan.assessments.find((a) => a.id === id)?.title ?? id
  return (
    <section>
      <h2>Do the sums hold?</h2>
      {!proof || proof.full === null ? (
        <p className="soft">
          Nothing that carries weight is set for this section yet. Give a component a weight and its assessments a worth, and the proof runs
          here.
        </p>
      ) : (
        <>
          <p>
            A made-up student with full marks stands at {fixed(proof.full, 0)}. Give them nothing for one assessment, and they fall by
            exactly what it carries{proof.holds ? '' : ' — but here they do not'}:
          </p>
          <Form.Select
            size="sm"
            aria-label="Section of the proof"
            value={sectionId}
            onChange={(e) => setSectionId(e.target.value)}
            className="mb-2"
          >
            {plan.sections.map((s) => (
              <option key={s.id} value={s.id}>
                in {s.name}
              </option>
            ))}
          </Form.Select>
          <table className="grid">
            <thead>
              <tr>
                <th>nothing for</th>
                <th className="number">stands at</th>
                <th className="number">falls by</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((r) => (
                <tr key={r.zeroed.join()}>
                  <td>
                    {r.zeroed.map(title).join(' and ')}
                    {r.fallsBy < 0 && <span className="soft"> (full: a bonus)</span>}
                  </td>
                  <td className="number">{fixed(r.standsAt, 2)}</td>
                  <td className={`number ${r.holds ? '' : 'brick'}`}>
                    <b>{fixed(r.fallsBy, 2)}</b>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="soft small mt-2">
            {proof.rows.some((r) => r.zeroed.length > 1) &&
              'Where the worst one is dropped, one zero costs nothing; a second one is shown beside it. '}
            {proof.holds ? 'Every fall equals the weight in the plan.' : 'A fall that differs from the plan is red.'}
          </p>
        </>
      )}
    </section>
  )
}
