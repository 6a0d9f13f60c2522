import { Button } from 'react-bootstrap'
import { routes, type Idea } from '#contract'
import { trialInWords } from '#core/trial'
import { useDecidedCourse } from '../../course/course'
import { usePersonLabels } from '../../settings/names'
import { PeopleList } from '../PeopleList'
import { TitleField } from '../TitleField'
import { counted, fixed, signed } from '../format'
import { ask } from '../../saving/ask'
import { useWrites } from '../../saving/writes'
import type { IdeaFigures } from './figures'
import { KeyCap } from '../../settings/KeyCap'

interface Props {
  name: string
  figures: IdeaFigures
  /** The one that all are held against. */
  against: IdeaFigures
  byGrade: boolean
  /** Null for what is adopted, and for what is tried. */
  idea: Idea | null
  /** Null where there is nothing to try. */
  onTry: (() => void) | null
  onDrop: () => void
  onNamed: () => void
}

/** One idea in depth: what it is made of, by section, and who moves. */
export function IdeaCloseUp({ name, figures: f, against, byGrade, idea, onTry, onDrop, onNamed }: Props) {
  const { id, table, mayDecide } = useDecidedCourse()
  const { write } = useWrites()
  const label = usePersonLabels(table.students)
  const isSame = f.id === against.id
  const rename = async (to: string) => {
    const named = (n: string) => ask(routes.nameIdea, { params: { courseId: id, ideaId: idea!.id }, body: { name: n } })
    await write('name an idea', named(to), () => named(idea!.name))
    onNamed()
  }
  return (
    <>
      <section>
        <h2>
          {idea && mayDecide ? (
            <TitleField label="Name of the idea" value={idea.name} disabled={false} onCommit={(n) => void rename(n)} />
          ) : (
            name
          )}
        </h2>
        {idea && (
          <p className="small soft mb-1">
            {trialInWords(idea.changes)}, kept by {idea.by}
          </p>
        )}
        {onTry && mayDecide && (
          <div className="d-flex gap-2">
            <Button size="sm" onClick={onTry}>
              Try it <KeyCap cap="t" />
            </Button>
            {idea && (
              <Button size="sm" variant="link" onClick={onDrop}>
                Drop it
              </Button>
            )}
          </div>
        )}
        {!isSame && (
          <p className="mt-2 mb-1">
            {f.change.reversed === 0
              ? 'Nobody overtakes anybody.'
              : `${counted(f.change.reversed, 'pair')} would change places: ${f.change.pairs
                  .slice(0, 3)
                  .map((p) => `${label(p.passes)} passes ${label(p.passed)}`)
                  .join('; ')}${f.change.reversed > 3 ? ' and so on' : ''}.`}
          </p>
        )}
      </section>
      <section>
        {byGrade ? (
          <ByGrade figures={f} against={against} />
        ) : (
          <table className="grid">
            <thead>
              <tr>
                <th>section</th>
                <th className="number">mean</th>
                <th className="number">against now</th>
                <th className="number">pass</th>
              </tr>
            </thead>
            <tbody>
              {f.sections.map((s, i) => {
                const now = against.sections[i]!
                return (
                  <tr key={s.id}>
                    <td>{table.sections.find((x) => x.id === s.id)?.name}</td>
                    <td className="number">{fixed(s.mean)}</td>
                    <td className="number soft">{s.mean === null || now.mean === null || isSame ? '' : signed(s.mean - now.mean)}</td>
                    <td className="number">
                      {s.passed}
                      {s.passed !== now.passed && <span className="soft"> was {now.passed}</span>}
                    </td>
                  </tr>
                )
              })}
            </tbody>
          </table>
        )}
      </section>
      {f.change.movers.length > 0 && (
        <section>
          <h2>Who moves: {f.change.movers.length}</h2>
          <PeopleList
            people={f.change.movers.map((m) => ({
              studentId: m.studentId,
              figures: (
                <>
                  <span className="number soft">{fixed(m.toPercent)}</span>
                  <span>
                    <b>{m.toGrade ?? 'open'}</b> <span className="soft">from {m.fromGrade ?? 'open'}</span>
                  </span>
                </>
              ),
            }))}
            empty=""
          />
        </section>
      )}
    </>
  )
}

/** How many have each grade in every section, and what changed. */
function ByGrade({ figures: f, against }: { figures: IdeaFigures; against: IdeaFigures }) {
  const { table } = useDecidedCourse()
  const rows = [
    { id: '', counts: f.counts, was: against.counts },
    ...f.sections.map((s, i) => ({ ...s, was: against.sections[i]!.counts })),
  ]
  const all = f.counts.reduce((n, c) => n + c.count, 0)
  return (
    <div className="wide-table">
      <table className="grid">
        <thead>
          <tr>
            <th />
            {f.counts.map((c) => (
              <th key={c.grade} className="number" title={c.grade}>
                {c.grade}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.id} className={r.id === '' ? 'fw-semibold' : ''}>
              <td>{table.sections.find((x) => x.id === r.id)?.name ?? 'everyone'}</td>
              {r.counts.map((c, i) => {
                const was = r.was.find((w) => w.grade === c.grade)?.count
                return (
                  <td key={c.grade} className="number">
                    {c.count}
                    {r.id === '' && all > 0 && <span className="soft fw-normal d-block small">{f.counts[i]!.percent}%</span>}
                    {was !== undefined && was !== c.count && <span className="soft fw-normal"> {signed(c.count - was, 0)}</span>}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
