import { Button, Form } from 'react-bootstrap'
import type { Boundary } from '#core/grades'
import { NumberField } from '../../../parts/NumberField'
import type { EarlierLines } from '../../../parts/useEarlierLines'
import { fixed, numeral } from '../../../parts/format'

/** Shares add up when they are this near to 100. */
const NEAR = 0.51

interface SharesProps {
  boundaries: readonly Boundary[]
  /** In percent. */
  shares: Readonly<Record<string, number>>
  sum: number
  earlier: readonly EarlierLines[]
  onShares: (shares: Record<string, number>) => void
}

/** The share that each grade should have, typed or taken from results of before. */
export function SharesAsked({ boundaries, shares, sum, earlier, onShares }: SharesProps) {
  return (
    <>
      <table className="grid">
        <tbody>
          {boundaries.map(({ grade }) => (
            <tr key={grade}>
              <td>{grade}</td>
              <td className="number" style={{ width: 100 }}>
                <NumberField
                  label={`Share of ${grade}`}
                  value={shares[grade] ?? 0}
                  min={0}
                  max={100}
                  step={1}
                  onCommit={(v) => v !== null && onShares({ ...shares, [grade]: v })}
                />
              </td>
              <td className="soft">%</td>
            </tr>
          ))}
          <tr>
            <td className="fw-semibold">together</td>
            <td className={`number fw-semibold ${Math.abs(sum - 100) > NEAR ? 'ochre' : ''}`}>{fixed(sum)}</td>
            <td className="soft">%</td>
          </tr>
        </tbody>
      </table>
      {Math.abs(sum - 100) > NEAR && (
        <p className="small ochre mt-1 mb-0">They should come to 100: what is over or lacking falls to the lowest grade.</p>
      )}
      {earlier.map((e) => {
        const all = e.counts.reduce((n, c) => n + c.count, 0)
        if (all === 0) return null
        return (
          <Button
            key={e.id}
            size="sm"
            variant="link"
            className="px-0 me-3"
            onClick={() =>
              onShares(
                Object.fromEntries(
                  boundaries.map(({ grade }) => {
                    const count = e.counts.find((c) => c.grade === grade)?.count ?? 0
                    return [grade, Math.round((1000 * count) / all) / 10]
                  }),
                ),
              )
            }
          >
            as {e.name.replace(/^lines of /, 'in ')}
          </Button>
        )
      })}
    </>
  )
}

export function GapsAsked({ zone, onZone }: { zone: number; onZone: (zone: number) => void }) {
  return (
    <Form.Group className="d-flex align-items-center gap-2">
      <span>Look within</span>
      <span style={{ width: 56 }}>
        <NumberField
          label="Look within so many percent"
          value={zone}
          min={0.5}
          max={20}
          step={0.5}
          onCommit={(v) => v !== null && onZone(v)}
        />
      </span>
      <span>percent of each line.</span>
    </Form.Group>
  )
}

interface Borderline {
  grade: string
  assessmentId: string
  borderline: number
}

interface BorderlineProps {
  boundaries: readonly Boundary[]
  assessments: readonly { id: string; title: string }[]
  /** Judgements that were given, in percent of their scale, lowest first. */
  given: readonly { judgement: number; count: number }[]
  asked: Borderline
  onAsked: (asked: { grade: string; assessmentId: string; borderline: number | null }) => void
}

/** Which judgement is just on the border, of which grade. */
export function BorderlineAsked({ boundaries, assessments, given, asked, onAsked }: BorderlineProps) {
  return (
    <div className="d-grid gap-2">
      <label>
        Judged in
        <Form.Select
          size="sm"
          value={asked.assessmentId}
          onChange={(e) => onAsked({ ...asked, assessmentId: e.target.value, borderline: null })}
        >
          {assessments.map((a) => (
            <option key={a.id} value={a.id}>
              {a.title}
            </option>
          ))}
        </Form.Select>
      </label>
      <label>
        who is just at
        <Form.Select size="sm" value={asked.grade} onChange={(e) => onAsked({ ...asked, grade: e.target.value })}>
          {boundaries.slice(0, -1).map((b) => (
            <option key={b.grade} value={b.grade}>
              {b.grade}
            </option>
          ))}
        </Form.Select>
      </label>
      <label>
        is judged
        <Form.Select size="sm" value={asked.borderline} onChange={(e) => onAsked({ ...asked, borderline: Number(e.target.value) })}>
          {given.map((g) => (
            <option key={g.judgement} value={g.judgement}>
              {numeral(g.judgement)}% of the scale, given {g.count === 1 ? 'once' : `${g.count} times`}
            </option>
          ))}
        </Form.Select>
      </label>
    </div>
  )
}
