import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { CourseOutcome } from '#contract'
import { messageOf } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { CarryPeople } from '../../../parts/CarryPeople'
import { OfSelect } from '../../../parts/OfSelect'
import { counted } from '../../../parts/format'
import type { Groups } from './useGroups'
import type { Who } from './who'

interface Props {
  /** Those that are listed. */
  people: { id: string; value: number }[]
  /** Takes the list out. */
  takeOut: ReactNode
  who: Who
  onWho: (who: Who) => void
  outcome: CourseOutcome
  groups: Groups
}

/** The people listed: kept as a group, carried, taken out. */
export function ThesePeople({ people, takeOut, who, onWho, outcome, groups }: Props) {
  const { table, mayDecide } = useDecidedCourse()
  const [name, setName] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const [of, setOf] = useState('')
  const group = who.kind === 'group' ? groups.all.find((g) => g.id === who.id) : undefined
  const keep = async () => {
    setProblem(null)
    try {
      const made = await groups.keep(
        name.trim(),
        people.map((p) => p.id),
      )
      setName('')
      onWho({ kind: 'group', id: made.id })
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <section>
      <div className="d-flex justify-content-between align-items-baseline">
        <h2>{group ? group.name : `These ${people.length}`}</h2>
        {takeOut}
      </div>
      {mayDecide && !group && people.length > 0 && (
        <Form
          className="d-flex gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            void keep()
          }}
        >
          <Form.Control
            size="sm"
            aria-label="Name of the group"
            placeholder="a name"
            maxLength={120}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <Button size="sm" type="submit" className="text-nowrap" disabled={name.trim() === ''}>
            Keep as a group
          </Button>
        </Form>
      )}
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
      {groups.all.length > 0 && (
        <ul className="people small mt-2">
          {groups.all.map((g) => (
            <li key={g.id}>
              <button
                className="quiet-button"
                aria-pressed={g === group}
                onClick={() => onWho(g === group ? { kind: 'all' } : { kind: 'group', id: g.id })}
              >
                {g.name}
              </button>
              <span className="soft">
                {counted(g.studentIds.length, 'student')}, {g.by}
              </span>
              {mayDecide && (
                <Button
                  size="sm"
                  variant="link"
                  className="p-0"
                  aria-label={`Drop the group ${g.name}`}
                  onClick={() => {
                    if (g === group) onWho({ kind: 'all' })
                    groups.drop(g.id).catch((e: unknown) => setProblem(messageOf(e)))
                  }}
                >
                  drop
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
      <div className="d-flex gap-2 align-items-baseline small mt-2">
        <span className="soft">for</span>
        <OfSelect
          table={{ components: [], assessments: table.assessments }}
          value={of}
          onChange={setOf}
          whole={{ id: '', title: 'no assessment' }}
          label="Carried for"
        />
      </div>
      <CarryPeople title={group?.name ?? `${people.length} at ${outcome.title}`} assessmentId={of || null} people={people} />
    </section>
  )
}
