import { Button } from 'react-bootstrap'
import { routes, type Idea } from '#contract'
import { trialInWords } from '#core/trial'
import { useCourse } from '../../../course/course'
import { usePersonLabels } from '../../../settings/names'
import { PeopleList } from '../../../parts/PeopleList'
import { TitleField } from '../../../parts/TitleField'
import { counted, fixed, signed } from '../../../parts/format'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import type { IdeaFigures } from './figures'

interface Props {
  name: string
  figures: IdeaFigures
  adopted: IdeaFigures
  /** Null for what is adopted, and for what is tried. */
  idea: Idea | null
  onTry: () => void
  onDrop: () => void
  onNamed: () => void
}

/** One idea in depth: what it is made of, by section, and who moves. */
export function IdeaCloseUp({ name, figures: f, adopted, idea, onTry, onDrop, onNamed }: Props) {
  const { id, table, mayDecide } = useCourse()
  const { write } = useWrites()
  const label = usePersonLabels(table.students)
  const isAdopted = f.id === adopted.id
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
        {idea && mayDecide && (
          <div className="d-flex gap-2">
            <Button size="sm" onClick={onTry}>
              Try it <kbd>T</kbd>
            </Button>
            <Button size="sm" variant="link" onClick={onDrop}>
              Drop it
            </Button>
          </div>
        )}
        {!isAdopted && (
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
        <table className="grid">
          <thead>
            <tr>
              <th>section</th>
              <th className="num">mean</th>
              <th className="num">against now</th>
              <th className="num">pass</th>
            </tr>
          </thead>
          <tbody>
            {f.sections.map((s, i) => {
              const now = adopted.sections[i]!
              return (
                <tr key={s.id}>
                  <td>{table.sections.find((x) => x.id === s.id)?.name}</td>
                  <td className="num">{fixed(s.mean)}</td>
                  <td className="num soft">{s.mean === null || now.mean === null || isAdopted ? '' : signed(s.mean - now.mean)}</td>
                  <td className="num">
                    {s.passed}
                    {s.passed !== now.passed && <span className="soft"> was {now.passed}</span>}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </section>
      {f.change.movers.length > 0 && (
        <section>
          <h2>Who moves: {f.change.movers.length}</h2>
          <PeopleList
            people={f.change.movers.map((m) => ({
              studentId: m.studentId,
              figures: (
                <>
                  <span className="num soft">{fixed(m.toPercent)}</span>
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
