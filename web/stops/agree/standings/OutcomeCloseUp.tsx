import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { LevelCounts } from '#core/outcomes'
import { routes, type CourseOutcome, type CourseOutcomes } from '#contract'
import { call, messageOf } from '../../../api/client'
import { useCourse } from '../../../course/course'
import { useSaved } from '../../../saving/saved'
import { CarryPeople } from '../../../parts/CarryPeople'
import { OfSelect } from '../../../parts/OfSelect'
import { counted, share } from '../../../parts/format'
import { ruleInWords } from '../outcome-words'
import { RuleFields } from '../RuleFields'
import type { OtherStanding, TriedRule } from './figures'
import type { Who } from './who'
import type { Groups } from './useGroups'

interface Props {
  outcome: CourseOutcome
  given: CourseOutcomes
  shares: { all: LevelCounts; sections: { id: string; counts: LevelCounts }[] }
  /** Who would stand otherwise by the rule that is tried. */
  moved: OtherStanding[] | null
  tried: TriedRule | null
  onTry: (rule: TriedRule | null) => void
  who: Who
  onWho: (who: Who) => void
  /** Takes the list out. */
  takeOut: ReactNode
  /** Those that are listed. */
  people: { id: string; value: number }[]
  groups: Groups
  onChanged: () => Promise<void>
}

const reachedOf = ({ reached, none, at }: LevelCounts): number | null => {
  const seen = at.reduce((n, x) => n + x, 0)
  return seen === 0 ? null : reached / (seen + none)
}

/** One outcome: who reaches it, section by section, what gives evidence of it, its rule to be tried, and the people listed. */
export function OutcomeCloseUp({ outcome, given, shares, moved, tried, onTry, who, onWho, people, takeOut, groups, onChanged }: Props) {
  const { id, table, mayDecide } = useCourse()
  const { saving } = useSaved()
  const [problem, setProblem] = useState<string | null>(null)
  const from = `${outcome.levels[outcome.reached - 1]?.label}${outcome.reached < outcome.levels.length ? ' or better' : ''}`
  const title = new Map(table.assessments.map((a) => [a.id, a.title]))
  const links = given.links.filter((l) => l.outcomeId === outcome.id)
  const all = reachedOf(shares.all)
  const does = async (work: () => Promise<unknown>) => {
    setProblem(null)
    try {
      await saving(work())
      await onChanged()
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const set = (patch: { shown?: boolean; judgements?: string[] }) =>
    does(() =>
      call(routes.setOutcome, {
        params: { courseId: id, outcomeId: outcome.id },
        body: { shown: outcome.shown, judgements: outcome.judgements, ...patch },
      }),
    )
  const setRule = () => {
    const { statement, levels, reached } = outcome
    return does(async () => {
      await call(routes.editStandard, {
        params: { courseId: id, standardId: outcome.id },
        body: {
          revision: outcome.revision,
          standard: { kind: 'outcome', title: outcome.title, body: { statement, levels, reached, rule: tried!.rule } },
        },
      })
      onTry(null)
    })
  }
  return (
    <>
      <section>
        <h2>{outcome.title}</h2>
        <p className="soft small mb-1">{outcome.statement}</p>
        <p>
          <b>{share(all)}</b> {from}. Seen in{' '}
          {links.length === 0
            ? 'what was noted by hand'
            : [...new Set(links.map((l) => `${title.get(l.assessmentId)} (${l.title})`))].join(', ')}
          .{shares.all.none > 0 && ` ${counted(shares.all.none, 'student')} without enough evidence.`}
        </p>
        <table className="grid">
          <thead>
            <tr>
              <th>section</th>
              <th className="num">{from}</th>
              <th aria-hidden />
            </tr>
          </thead>
          <tbody>
            {shares.sections
              .map((s) => ({ ...s, part: reachedOf(s.counts) }))
              .toSorted((a, b) => (b.part ?? -1) - (a.part ?? -1))
              .map((s) => (
                <tr key={s.id}>
                  <td>{table.sections.find((x) => x.id === s.id)?.name}</td>
                  <td className="num fw-semibold">{share(s.part)}</td>
                  <td>
                    {s.part !== null && (
                      <svg width={110} height={16} aria-hidden>
                        <line x1={4} x2={106} y1={8} y2={8} className="ruler-line" />
                        {all !== null && <line x1={4 + all * 102} x2={4 + all * 102} y1={2} y2={14} className="ruler-all" />}
                        <circle cx={4 + s.part * 102} cy={8} r="4" className="ruler-dot" />
                      </svg>
                    )}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </section>
      <section>
        <h2>Its rule</h2>
        <p className="mb-1">{ruleInWords(outcome.rule)}</p>
        <RuleFields
          label="Try another rule"
          rule={tried?.rule ?? outcome.rule}
          onRule={(rule) => {
            onTry({ outcomeId: outcome.id, rule })
            if (who.kind === 'moved') onWho({ kind: 'all' })
          }}
        />
        {tried && (
          <p className="mt-1" aria-live="polite">
            {moved === null ? 'Working it out…' : otherwiseInWords(moved, from)}{' '}
            {moved !== null && moved.length > 0 && (
              <Button size="sm" variant="link" className="p-0" onClick={() => onWho({ kind: 'moved' })}>
                See who
              </Button>
            )}{' '}
            {mayDecide && outcome.mine && (
              <Button size="sm" variant="link" className="p-0" onClick={() => void setRule()}>
                Set it so
              </Button>
            )}{' '}
            <Button
              size="sm"
              variant="link"
              className="p-0"
              onClick={() => {
                onTry(null)
                if (who.kind === 'moved') onWho({ kind: 'all' })
              }}
            >
              Leave it
            </Button>
            {!outcome.mine && <span className="soft small d-block">It is {outcome.owner}’s: suggest it in the library.</span>}
          </p>
        )}
      </section>
      <These people={people} takeOut={takeOut} who={who} onWho={onWho} outcome={outcome} groups={groups} />
      <section>
        <h2>Who sees it, and what else counts</h2>
        <Form.Check
          id="outcome-shown"
          label="students see where they stand on it"
          checked={outcome.shown}
          disabled={!mayDecide}
          onChange={(e) => void set({ shown: e.target.checked })}
        />
        {given.judged.map((a) => (
          <Form.Check
            key={a}
            id={`judgement-${a}`}
            label={`the overall judgement of ${title.get(a)}`}
            checked={outcome.judgements.includes(a)}
            disabled={!mayDecide}
            onChange={(e) =>
              void set({ judgements: e.target.checked ? [...outcome.judgements, a] : outcome.judgements.filter((x) => x !== a) })
            }
          />
        ))}
        {problem && (
          <p className="note bad" role="alert">
            {problem}
          </p>
        )}
      </section>
    </>
  )
}

function otherwiseInWords(moved: readonly OtherStanding[], from: string): string {
  const [more, fewer] = [moved.filter((m) => m.reached && !m.reachedWas).length, moved.filter((m) => !m.reached && m.reachedWas).length]
  if (moved.length === 0) return 'By that nobody would stand otherwise.'
  const parts = [
    more > 0 && `${more} more would be ${from}`,
    fewer > 0 && `${fewer} fewer`,
    more + fewer === 0 && `${counted(moved.length, 'student')} would stand at another level`,
  ]
  return `By that ${parts.filter(Boolean).join(', ')}.`
}

/** The people listed: kept as a group, carried, taken out. */
function These({
  people,
  takeOut,
  who,
  onWho,
  outcome,
  groups,
}: Pick<Props, 'people' | 'takeOut' | 'who' | 'onWho' | 'outcome' | 'groups'>) {
  const { table, mayDecide } = useCourse()
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
