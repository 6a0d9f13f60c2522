import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { partOf, type Condition } from '#core/grades'
import { useCourse, useFigures } from '../../../course/course'
import { CarryPeople } from '../../../parts/CarryPeople'
import { NumberField } from '../../../parts/NumberField'
import { OfSelect } from '../../../parts/OfSelect'
import { PeopleList } from '../../../parts/PeopleList'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed, numeral } from '../../../parts/format'
import { CloseUp } from '../../../parts/CloseUp'

const ANEW = 'anew'
const LEAST = 40

/** What grades ask of single parts of the work: tried like a line, with who is held back by what. */
export function ConditionsPart({ nav }: { nav: ReactNode }) {
  const { table, tried, propose, mayDecide } = useCourse()
  const { boundaries, conditions } = tried
  const held = useFigures('heldBack')
  const [wanted, setWanted] = useState<string | null>(null)
  const [on, setOn] = useState(table.components.find((c) => !c.bonus)?.id ?? '')
  const [least, setLeast] = useState<number | null>(LEAST)
  const [without, setWithout] = useState('')
  if (!held) return <WorkingOut />
  const title = (id: string) => [...table.components, ...table.assessments].find((x) => x.id === id)?.title ?? 'what is no longer there'
  /** The grade that a condition opens: the one above the best without it. */
  const opens = (atMost: string) => boundaries[boundaries.findIndex((b) => b.grade === atMost) - 1]?.grade
  const orAbove = (grade: string | undefined) => (grade === undefined ? '–' : grade === boundaries[0]?.grade ? grade : `${grade} or above`)
  const atMost = without || boundaries[1]?.grade || ''
  const chosen = conditions.find((c) => c.id === wanted) ?? conditions[0]
  const behind = held.find((h) => h.conditionId === chosen?.id)
  const isComponent = (id: string) => table.components.some((c) => c.id === id)
  const set = (conditionId: string, condition: Condition | null, what: string) =>
    propose([{ kind: 'condition', conditionId, condition }], what)
  const add = () => {
    if (least === null || on === '') return
    // One on the same part, for the same grade, takes the place of the one there is.
    const same = conditions.find((c) => partOf(c) === on && c.atMost === atMost)
    const id = same?.id ?? crypto.randomUUID()
    const asks = { least, atMost }
    set(id, isComponent(on) ? { componentId: on, ...asks } : { assessmentId: on, ...asks }, `${title(on)} asks for ${numeral(least)}%`)
    setWanted(id)
  }
  const change = (id: string, patch: { least?: number; atMost?: string }) => {
    const { id: _, ...condition } = conditions.find((c) => c.id === id)!
    set(id, { ...condition, ...patch }, `${title(partOf(condition))} asks for ${numeral(patch.least ?? condition.least)}%`)
  }
  const grades = boundaries.slice(1)
  const gradeSelect = (label: string, value: string, onChange: (grade: string) => void) => (
    <Form.Select size="sm" aria-label={label} value={value} disabled={!mayDecide} onChange={(e) => onChange(e.target.value)}>
      {!grades.some((g) => g.grade === value) && <option value={value}>{value}: no such grade</option>}
      {grades.map((g) => (
        <option key={g.grade} value={g.grade}>
          {orAbove(opens(g.grade))}
        </option>
      ))}
    </Form.Select>
  )
  return (
    <div className="work typed-here">
      <main className="table-side">
        <div className="stop-head">
          <h1>What does a grade ask for beside its percent?</h1>
          {nav}
        </div>
        <table className="grid">
          <thead>
            <tr>
              <th>for</th>
              <th className="number">at least, %</th>
              <th>in</th>
              <th className="number">held back</th>
              <th className="number">less, and not held</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {conditions.map((c) => {
              const of = held.find((h) => h.conditionId === c.id)
              return (
                <tr key={c.id} className="pick" aria-selected={c === chosen} onClick={() => setWanted(c.id)}>
                  <td style={{ width: 210 }}>
                    {gradeSelect(`${title(partOf(c))} is asked for by`, c.atMost, (atMost) => change(c.id, { atMost }))}
                  </td>
                  <td className="number" style={{ width: 90 }}>
                    <NumberField
                      label={`${title(partOf(c))} at least`}
                      value={c.least}
                      disabled={!mayDecide}
                      min={0}
                      max={100}
                      step={1}
                      onCommit={(v) => v !== null && change(c.id, { least: v })}
                    />
                  </td>
                  <td>
                    <button className="row-name" onClick={() => setWanted(c.id)}>
                      {title(partOf(c))}
                    </button>
                    {opens(c.atMost) === undefined && (
                      <span className="ochre small d-block">
                        {c.atMost === boundaries[0]?.grade
                          ? `${c.atMost} is the best grade there is, so this holds nobody.`
                          : `There is no grade ${c.atMost} any more, so this asks nothing.`}
                      </span>
                    )}
                  </td>
                  <td className="number fw-semibold">{of?.held.length ?? 0}</td>
                  <td className="number soft">{of?.unmet ?? 0}</td>
                  <td className="text-end">
                    {mayDecide && (
                      <Button
                        size="sm"
                        variant="link"
                        aria-label={`Take the condition on ${title(partOf(c))} away`}
                        onClick={(e) => {
                          e.stopPropagation()
                          set(c.id, null, `take the condition on ${title(partOf(c))} away`)
                        }}
                      >
                        take away
                      </Button>
                    )}
                  </td>
                </tr>
              )
            })}
            {mayDecide && boundaries.length > 1 && (
              <tr>
                <td>{gradeSelect('The new condition is asked for by', atMost, setWithout)}</td>
                <td className="number">
                  <NumberField label="The new condition asks for at least" value={least} min={0} max={100} step={1} onCommit={setLeast} />
                </td>
                <td>
                  <OfSelect
                    table={table}
                    value={on}
                    onChange={setOn}
                    whole={{ id: ANEW, title: 'choose a part' }}
                    label="The new condition is on"
                  />
                </td>
                <td colSpan={3} className="text-end">
                  <Button size="sm" variant="outline-primary" disabled={least === null || on === '' || on === ANEW} onClick={add}>
                    Try this condition
                  </Button>
                </td>
              </tr>
            )}
          </tbody>
        </table>
        <p className="soft small mt-3" style={{ maxWidth: 640 }}>
          Who has the percent of a grade but less than is asked for gets the best grade that does not ask for it. What does not apply to a
          student, or is pending, asks nothing of them. A bonus and what is dropped stand as they are: the component’s percent is what
          counts.
        </p>
      </main>
      <CloseUp>
        {chosen && behind ? (
          <section>
            <h2>
              {numeral(chosen.least)}% in {title(partOf(chosen))} for {orAbove(opens(chosen.atMost))}
            </h2>
            <p aria-live="polite">
              {behind.held.length === 0 ? 'It holds nobody back.' : `It holds ${counted(behind.held.length, 'student')} back.`}{' '}
              {behind.unmet > 0 && `${counted(behind.unmet, 'student')} have less and no better grade than they would get anyway.`}
            </p>
            <PeopleList
              people={behind.held.map((h) => ({
                studentId: h.studentId,
                figures: (
                  <>
                    <span className="number soft" title={`in ${title(partOf(chosen))}`}>
                      {fixed(h.has)}%
                    </span>
                    <span className="number">{fixed(h.percent)}</span>
                    <span>
                      <b>{h.to}</b> <span className="soft">by percent {h.from}</span>
                    </span>
                  </>
                ),
              }))}
              empty=""
            />
            <CarryPeople
              title={`Held back by ${numeral(chosen.least)}% in ${title(partOf(chosen))}`}
              assessmentId={isComponent(partOf(chosen)) ? null : partOf(chosen)}
              people={behind.held.map((h) => ({ id: h.studentId, value: h.has ?? 0 }))}
            />
          </section>
        ) : (
          <p className="soft">
            No grade asks for anything but its percent. A condition that is tried shows here who it holds back, before it is adopted.
          </p>
        )}
      </CloseUp>
    </div>
  )
}
