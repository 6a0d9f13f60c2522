import { Form } from 'react-bootstrap'
import { gradeCourse, type Status } from '#core/grades'
import type { Policy } from '#contract'
import { numeral } from '../../../parts/format'
import { NumberField } from '../../../parts/NumberField'
import styles from './plan.module.css'

interface Props {
  policy: Policy
  hasMarks: boolean
  disabled: boolean
  onChange: (policy: Policy) => void
  onClose: () => void
}

/** What happens to work that is late, missing or absent, and how the end is rounded, with an example that the real engine computes. */
export function Policies({ policy: p, hasMarks, disabled, onChange, onClose }: Props) {
  const set = (patch: Partial<Policy>) => onChange({ ...p, ...patch })
  return (
    <section className="policies">
      <div className="d-flex justify-content-between align-items-baseline">
        <h2>Policies</h2>
        <button className="quiet-button" onClick={onClose}>
          back to the proof
        </button>
      </div>
      <Choice
        label="Missing work"
        disabled={disabled}
        value={p.missing.kind}
        options={{ zero: 'counts nothing', pending: 'stays pending', floor: 'counts a floor of' }}
        onChange={(kind) => set({ missing: kind === 'floor' ? { kind, percent: 30 } : { kind: kind as 'zero' | 'pending' } })}
      >
        {p.missing.kind === 'floor' && (
          <Percent
            label="Floor for missing work"
            disabled={disabled}
            value={p.missing.percent}
            onChange={(percent) => set({ missing: { kind: 'floor', percent } })}
          />
        )}
      </Choice>
      <Choice
        label="Absent"
        disabled={disabled}
        value={p.absent.kind}
        options={{ pending: 'stays pending', zero: 'counts nothing', exempt: 'is exempt' }}
        onChange={(kind) => set({ absent: { kind: kind as Policy['absent']['kind'] } })}
      />
      <Choice
        label="Late work"
        disabled={disabled}
        value={p.late.kind}
        options={{ none: 'costs nothing', cap: 'counts at most', perDay: 'loses, a day,' }}
        onChange={(kind) =>
          set({ late: kind === 'cap' ? { kind, percent: 50 } : kind === 'perDay' ? { kind, percent: 5, maxDays: null } : { kind: 'none' } })
        }
      >
        {p.late.kind !== 'none' && (
          <Percent
            label={p.late.kind === 'cap' ? 'Most that late work counts' : 'Percent lost a day'}
            disabled={disabled}
            value={p.late.percent}
            onChange={(percent) => p.late.kind !== 'none' && set({ late: { ...p.late, percent } })}
          />
        )}
        {p.late.kind === 'perDay' && (
          <>
            for at most{' '}
            <NumberField
              label="Most days that are counted"
              className="short"
              optional
              min={0}
              max={366}
              disabled={disabled}
              value={p.late.maxDays}
              onCommit={(maxDays) => p.late.kind === 'perDay' && set({ late: { ...p.late, maxDays } })}
            />{' '}
            days
          </>
        )}
      </Choice>
      <Choice
        label="The course percent"
        disabled={disabled}
        value={p.rounding ? String(p.rounding.decimals) : 'none'}
        options={{ none: 'is not rounded', '0': 'rounds to a whole', '1': 'rounds to 1 decimal', '2': 'rounds to 2 decimals' }}
        onChange={(kind) => set({ rounding: kind === 'none' ? null : { decimals: Number(kind) as 0 | 1 | 2 } })}
      />
      <Choice
        label="Above 100"
        disabled={disabled}
        value={p.above100}
        options={{ cap: 'counts as 100', allow: 'is allowed' }}
        onChange={(kind) => set({ above100: kind as Policy['above100'] })}
      />
      <h3 className="mt-3">For example</h3>
      <table className="grid">
        <tbody>
          {EXAMPLES.map((e) => (
            <tr key={e.words}>
              <td>{e.words}</td>
              <td className="number">
                <b>{example(p, e)}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="soft small mt-2">
        {hasMarks ? 'There are marks: a change is a trial until you adopt it.' : 'Saved as you set it.'} Late work is reckoned last, after
        all adjustments; a blank is never a nothing.
      </p>
    </section>
  )
}

function Choice<K extends string>({
  label,
  value,
  options,
  onChange,
  disabled,
  children,
}: {
  label: string
  value: K
  options: Record<string, string>
  onChange: (value: string) => void
  disabled: boolean
  children?: React.ReactNode
}) {
  return (
    <div className={styles.policy}>
      <span className="soft">{label}</span>
      <span>
        <Form.Select size="sm" aria-label={label} value={value} disabled={disabled} onChange={(e) => onChange(e.target.value)}>
          {Object.entries(options).map(([k, words]) => (
            <option key={k} value={k}>
              {words}
            </option>
          ))}
        </Form.Select>{' '}
        {children}
      </span>
    </div>
  )
}

function Percent({
  label,
  value,
  disabled,
  onChange,
}: {
  label: string
  value: number
  disabled: boolean
  onChange: (percent: number) => void
}) {
  return (
    <>
      <NumberField
        label={label}
        className="short"
        min={0}
        max={100}
        disabled={disabled}
        value={value}
        onCommit={(percent) => percent !== null && onChange(percent)}
      />
      {'% '}
    </>
  )
}

interface Example {
  words: string
  mark: number | null
  status: Status
  daysLate: number
}
const EXAMPLES: Example[] = [
  { words: '80 of 100, one day late', mark: 80, status: 'late', daysLate: 1 },
  { words: '80 of 100, seven days late', mark: 80, status: 'late', daysLate: 7 },
  { words: 'missing', mark: null, status: 'missing', daysLate: 0 },
  { words: 'absent', mark: null, status: 'absent', daysLate: 0 },
  { words: 'blank', mark: null, status: 'in', daysLate: 0 },
  { words: '69.95 of 100', mark: 69.95, status: 'in', daysLate: 0 },
  { words: '104 of 100', mark: 104, status: 'in', daysLate: 0 },
]

/** What one piece of work that is the whole course comes to under a policy. */
function example(policy: Policy, { mark, status, daysLate }: Example): string {
  const { students } = gradeCourse({
    policy,
    components: [{ id: 'c', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
    assessments: [{ id: 'a', componentId: 'c', outOf: 100, worth: 100, counts: true, bonus: false, droppable: true }],
    placements: [{ assessmentId: 'a', sectionId: 's' }],
    students: [{ id: 'x', sectionId: 's' }],
    marks: [{ studentId: 'x', assessmentId: 'a', mark, status, daysLate }],
    boundaries: [],
  })
  const { rounded, pending } = students[0]!
  return rounded !== null ? numeral(rounded) : pending > 0 ? 'pending' : 'left out'
}
