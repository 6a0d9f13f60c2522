import { useMemo } from 'react'
import { routes, type Exemplars } from '#contract'
import { call } from '../../../api/client'
import { useWrites } from '../../../saving/writes'
import { fixed, numeral, share } from '../../../parts/format'
import { Vial } from '../../../parts/Vial'
import { tuned } from '../../../parts/tuned'
import styles from '../agree.module.css'

interface Props {
  courseId: string
  exemplars: Exemplars
  markers: NonNullable<Exemplars['markers']>
  chosen: string | null
  onChoose: (id: string | null) => void
  lead: boolean
}

/** Every marker against what was agreed: the vial, how often they agree, and whether they may begin. */
export function MarkersTable({ courseId, exemplars, markers, chosen, onChoose, lead }: Props) {
  const { write } = useWrites()
  const { exemplars: read, assessment, standard } = exemplars
  const figures = useMemo(
    () =>
      tuned(
        exemplars,
        markers.flatMap((m) => m.readings.map((r) => ({ ...r, markerId: m.id }))),
      ),
    [exemplars, markers],
  )
  const rows = markers.map((m) => ({ m, t: figures.markers.find((t) => t.markerId === m.id) }))
  rows.sort((a, b) => Math.abs(b.t?.lean ?? -1) - Math.abs(a.t?.lean ?? -1))
  const icc = figures.together.find((i) => i.form === '(2,1)')
  const open = (markerId: string, gate: 'open' | 'held' | null, before: 'open' | 'held' | null) => {
    const send = (g: typeof gate) =>
      call(routes.setGate, { params: { courseId, assessmentId: assessment.id, markerId }, body: { gate: g } }).then(() => true)
    void write(
      gate === 'held' ? 'hold the marking' : 'open the marking',
      () => send(gate),
      () => send(before),
    )
  }
  const of1 = rows.find((r) => r.m.id === chosen)
  return (
    <>
      <section>
        <h2>Markers on the exemplars</h2>
        {read.length === 0 && <p className="soft mb-1">Without exemplars everybody may begin. You can hold a marker all the same.</p>}
        <table className={`grid ${styles.tuning}`}>
          <thead>
            <tr>
              <th>marker</th>
              <th>lean</th>
              <th className="number" title={`Share of exemplars within ${numeral(assessment.tolerance)} marks`}>
                within
              </th>
              <th>may begin</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ m, t }) => (
              <tr key={m.id} aria-selected={m.id === chosen}>
                <td>
                  <button className="row-name" aria-pressed={m.id === chosen} onClick={() => onChoose(m.id === chosen ? null : m.id)}>
                    {m.name}
                  </button>
                  {m.readings.length < read.length && (
                    <span className="ochre small d-block">
                      {m.readings.length} of {read.length} read
                    </span>
                  )}
                </td>
                <td>
                  {t ? (
                    <Vial name={m.name} lean={t.lean} interval={t.interval} tolerance={Math.max(assessment.tolerance, 0.5)} />
                  ) : (
                    <span className="soft small">not read</span>
                  )}
                </td>
                <td className="number">{t ? share(t.agreement.within) : ''}</td>
                <td>
                  {lead ? (
                    <button
                      className="quiet-button"
                      aria-label={m.gate === 'open' ? `Hold the marking for ${m.name}` : `Open the marking for ${m.name}`}
                      title={m.gate === 'open' ? 'Hold it' : 'Open it'}
                      onClick={() => open(m.id, m.gate === 'open' ? 'held' : 'open', m.set)}
                    >
                      {m.gate === 'open' ? 'yes' : <b className="ochre">held</b>}
                    </button>
                  ) : m.gate === 'open' ? (
                    'yes'
                  ) : (
                    'held'
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {of1 && (
        <section>
          <h2>{of1.m.name}</h2>
          {of1.t ? (
            <>
              <p className="mb-1">
                The same mark on {share(of1.t.agreement.exact)} of {of1.t.read}, within {numeral(assessment.tolerance)} on{' '}
                {share(of1.t.agreement.within)}.{' '}
                {of1.t.kappa.kappa !== null ? (
                  <>
                    Weighted kappa over the levels {fixed(of1.t.kappa.kappa, 2)}
                    {of1.t.kappa.interval && ` (95% ${fixed(of1.t.kappa.interval[0], 2)} to ${fixed(of1.t.kappa.interval[1], 2)})`}.
                  </>
                ) : (
                  <span className="soft">No kappa: {of1.t.kappa.reason}.</span>
                )}
              </p>
              {standard && standard.kind !== 'scale' && (
                <table className="grid">
                  <tbody>
                    {standard.body.criteria.map((c) => (
                      <tr key={c.id}>
                        <td>{c.title}</td>
                        <td>
                          <Vial
                            name={`${of1.m.name} on ${c.title}`}
                            lean={of1.t!.criteria[c.id] ?? null}
                            interval={null}
                            tolerance={1}
                            unit="points"
                          />
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              )}
            </>
          ) : (
            <p className="soft">Has read none of them yet.</p>
          )}
        </section>
      )}
      {read.length > 0 && icc && (
        <p className="small mb-1">
          {icc.value === null ? (
            <span className="soft">How alike all mark cannot be told: {icc.reason}.</span>
          ) : (
            <>
              How alike they mark: intraclass correlation {fixed(icc.value, 2)}
              {icc.interval && `, 95% ${fixed(icc.interval[0], 2)} to ${fixed(icc.interval[1], 2)}`}.
            </>
          )}
        </p>
      )}
    </>
  )
}
