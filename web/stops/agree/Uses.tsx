import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { usePlanQuery } from '../../course/plan'
import { useWrites } from '../../saving/writes'
import { counted } from '../../parts/format'
import { Attach } from './Attach'
import { attachTo } from './attach-to'
import { CarryOver } from './CarryOver'
import { pointsOf, type Entry } from './library'
import { UseOptions } from './UseOptions'

/** Who uses an entry, in which version and how; where a newer one waits, from here it is put to use and marked scripts are carried over. */
export function Uses({ courseId, entry, decides }: { courseId: string; entry: Entry; decides: boolean }) {
  const plan = usePlanQuery(courseId, decides)
  const { write } = useWrites()
  const [shown, setShown] = useState<string | null>(null)
  const [carrying, setCarrying] = useState<Entry['standard']['uses'][number] | null>(null)
  const { standard } = entry
  const upgrade = (use: (typeof standard.uses)[number]) => {
    void write(
      `${use.assessment} by version ${standard.version}`,
      () => attachTo(courseId, use.assessmentId, standard.id),
      () => attachTo(courseId, use.assessmentId, use.standardId),
    )
  }
  return (
    <section>
      <h2>Who uses it</h2>
      {standard.uses.length === 0 ? (
        <p className="soft mb-1">Nobody yet.</p>
      ) : (
        <ul className="people">
          {standard.uses.map((u) => {
            const assessment = u.courseId === courseId ? plan.data?.assessments.find((a) => a.id === u.assessmentId) : undefined
            const here = assessment && decides
            return (
              <li key={u.assessmentId} className="flex-wrap">
                {here && entry.kind !== 'outcome' ? (
                  <button
                    className="row-name"
                    aria-expanded={shown === u.assessmentId}
                    title="How it is used there"
                    onClick={() => setShown(shown === u.assessmentId ? null : u.assessmentId)}
                  >
                    {u.assessment}
                  </button>
                ) : (
                  <span className="fw-semibold">{u.assessment}</span>
                )}
                <span className="soft small">
                  {u.course}
                  {entry.kind !== 'outcome' && (standard.version > 1 || u.version > 1) && `, version ${u.version}`}
                </span>
                {here && u.standardId !== standard.id && entry.kind !== 'outcome' && (
                  <span className="w-100">
                    <Button size="sm" variant="outline-primary" onClick={() => upgrade(u)}>
                      Use version {standard.version} from now on
                    </Button>
                  </span>
                )}
                {u.behind > 0 && u.standardId === standard.id && (
                  <span className="w-100 small">
                    <span className="ochre">{counted(u.behind, 'reading')} by an earlier version</span>{' '}
                    {here && (entry.kind === 'rubric' || entry.kind === 'scale') && (
                      <button className="quiet-button" onClick={() => setCarrying(u)}>
                        carry them over…
                      </button>
                    )}
                  </span>
                )}
                {here && shown === u.assessmentId && <UseOptions courseId={courseId} assessment={assessment} points={pointsOf(entry)} />}
              </li>
            )
          })}
        </ul>
      )}
      {decides && entry.kind !== 'outcome' && standard.state !== 'retired' && <Attach courseId={courseId} entry={entry} />}
      {carrying && <CarryOver courseId={courseId} use={carrying} to={standard} onClose={() => setCarrying(null)} />}
    </section>
  )
}
