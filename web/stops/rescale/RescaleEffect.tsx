import { useMemo } from 'react'
import type { Mover } from '#core/rescale'
import { useDecidedCourse } from '../../course/course'
import { usePersonLabels } from '../../settings/names'
import { PeopleList } from '../../parts/PeopleList'
import { Rows } from '../../parts/Rows'
import { Vial } from '../../parts/Vial'
import { counted, fixed } from '../../parts/format'
import type { RescaleFigures } from './figures'

const NAMED = 3
const ROW = 31
const NONE: Mover[] = []

/** Plain and adjusted side by side, by section; who moves and who overtakes whom. */
export function RescaleEffect({ figures, trying }: { figures: RescaleFigures; trying: boolean }) {
  const { table } = useDecidedCourse()
  const { change, rest } = figures
  const label = usePersonLabels(table.students)
  const sectionOf = useMemo(() => new Map(table.students.map((s) => [s.id, s.sectionId])), [table.students])
  const movers = change?.movers ?? NONE
  const ways = useMemo(() => {
    const by = new Map<string, { up: number; down: number }>()
    for (const m of movers) {
      const id = sectionOf.get(m.studentId)!
      const own = by.get(id) ?? { up: 0, down: 0 }
      if (m.direction > 0) own.up++
      if (m.direction < 0) own.down++
      by.set(id, own)
    }
    return by
  }, [movers, sectionOf])
  return (
    <section>
      <h2>What it does</h2>
      <table className="grid">
        <thead>
          <tr>
            <th>section</th>
            <th className="number">as marked</th>
            <th className="number">rescaled</th>
            <th className="number">passed</th>
            <th className="number">up</th>
            <th className="number">down</th>
            <th>leans from the rest</th>
          </tr>
        </thead>
        <tbody>
          <Rows
            items={figures.sections}
            height={ROW}
            columns={7}
            row={(s, row) => (
              <tr key={s.id} {...row}>
                <td className="fw-semibold">
                  {s.name}
                  {s.n === 0 && (
                    <span className="soft fw-normal"> {figures.subject.assessmentId === null ? 'no finals' : 'no marks'} yet</span>
                  )}
                </td>
                <td className="number soft">{fixed(s.plainMean)}</td>
                <td className="number fw-semibold">{fixed(s.mean)}</td>
                <td className="number">
                  {s.passed ?? '–'}
                  {s.passed !== s.plainPassed && <span className="soft"> was {s.plainPassed}</span>}
                </td>
                <td className="number">{ways.get(s.id)?.up || ''}</td>
                <td className="number">{ways.get(s.id)?.down || ''}</td>
                <td>
                  <Vial name={s.name} lean={s.lean.difference} interval={s.lean.interval} tolerance={figures.tolerance} figure={false} />
                </td>
              </tr>
            )}
          />
        </tbody>
      </table>
      {change && (
        <p className="small mt-2 mb-1">
          {change.reversed === 0
            ? 'Nobody overtakes anybody in the course.'
            : `${counted(change.reversed, 'pair')} ${change.reversed === 1 ? 'changes' : 'change'} places in the course: ${change.pairs
                .slice(0, NAMED)
                .map((p) => `${label(p.passes)} passes ${label(p.passed)}`)
                .join('; ')}${change.reversed > NAMED ? ' and so on' : ''}.`}
        </p>
      )}
      {rest && (
        <p className="small soft mb-1">
          Apart from this, the rest of the trial moves {counted(rest.percents, 'percent')}: {rest.up} up, {rest.down} down.
        </p>
      )}
      {movers.length > 0 && (
        <details>
          <summary>See all {movers.length} who move</summary>
          <PeopleList
            people={movers.map((m) => ({
              studentId: m.studentId,
              figures: (
                <>
                  <span className="number soft">
                    {fixed(m.fromPercent)} → {fixed(m.toPercent)}
                  </span>
                  <span>
                    {m.fromGrade ?? 'open'} → <b>{m.toGrade ?? 'open'}</b>
                  </span>
                </>
              ),
            }))}
            empty="Nobody."
          />
        </details>
      )}
      {!figures.rescaled && figures.after.length > 0 && !trying && (
        <p className="soft small">Nothing is rescaled here: rescaled equals as marked.</p>
      )}
    </section>
  )
}
