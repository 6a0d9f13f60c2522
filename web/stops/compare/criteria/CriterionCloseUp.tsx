import type { Assessment } from '#contract'
import { CarryPeople } from '../../../parts/CarryPeople'
import { PeopleList } from '../../../parts/PeopleList'
import { counted, fixed, numeral, share } from '../../../parts/format'
import type { ComparedCriterion } from './figures'

interface Props {
  criterion: ComparedCriterion
  assessment: Assessment
  level: number | null
  onLevel: (level: number | null) => void
}

/** One criterion in depth: its levels in words with how often each was given, and who was given one. */
export function CriterionCloseUp({ criterion: c, assessment, level, onLevel }: Props) {
  const times = new Map<string, number>()
  for (const g of c.given) if (g.level === level) times.set(g.studentId, (times.get(g.studentId) ?? 0) + 1)
  const people = level === null ? [] : [...times].map(([id, n]) => ({ id, value: c.labels[level]!.points, n }))
  return (
    <>
      <section>
        <h2>{c.title}</h2>
        <p>
          {c.n === 0 ? 'Nobody has judged it yet.' : `Judged ${counted(c.n, 'time')}: ${share(c.mean)} of its points on average.`}{' '}
          {c.withOthers !== null && `It goes with the other criteria at ${fixed(c.withOthers, 2)} (1 would be in step, 0 not at all).`}{' '}
          {c.apart !== null && `Two readings of a script are ${numeral(c.apart)} apart on it in the middle of cases.`}
        </p>
        {c.labels.length > 0 && (
          <table className="grid">
            <thead>
              <tr>
                <th className="number">points</th>
                <th>level</th>
                <th className="number">given</th>
              </tr>
            </thead>
            <tbody>
              {c.labels.map((l, at) => (
                <tr key={at} className="pick" aria-selected={at === level} onClick={() => onLevel(at)}>
                  <td className="number">{numeral(l.points)}</td>
                  <td>
                    <button className="row-name" onClick={() => onLevel(at)}>
                      {l.words.length > 70 ? `${l.words.slice(0, 70)}…` : l.words}
                    </button>
                  </td>
                  <td className={`number ${c.levels[at] === 0 ? 'ochre' : ''}`}>{c.levels[at]}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      {level !== null && (
        <section aria-live="polite">
          <h2>
            {counted(people.length, 'script')} given {numeral(c.labels[level]!.points)}
          </h2>
          <PeopleList
            people={people.map((p) => ({
              studentId: p.id,
              figures: <span className="soft small">{p.n > 1 ? `by ${p.n} readings` : ''}</span>,
            }))}
            empty="Nobody was given this level."
          />
          <CarryPeople
            title={`${assessment.title}: ${c.title} at ${c.labels[level]!.points}`}
            people={people}
            assessmentId={assessment.id}
          />
        </section>
      )}
    </>
  )
}
