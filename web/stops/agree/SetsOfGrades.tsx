import { foldedName } from '#core/roll'
import { Link } from 'react-router'
import { useGradeSets } from '../../parts/grade-sets'
import { numeral } from '../../parts/format'

/** The sets of grades in the library: read here, kept and begun from where a course's grades are set. */
export function SetsOfGrades({ courseId, wanted, decides }: { courseId: string; wanted: string; decides: boolean }) {
  const { sets, drop } = useGradeSets(courseId)
  const shown = sets.filter((s) => foldedName([s.name, s.by, ...s.grades.map((g) => g.grade)].join(' ')).includes(wanted))
  return (
    <section>
      <h2>Sets of grades</h2>
      {shown.length > 0 && (
        <ul className="people">
          {shown.map((s) => (
            <li key={s.id} className="d-block">
              <b>{s.name}</b> <span className="soft small">{s.by}</span>
              {decides && s.own && (
                <>
                  {' '}
                  <button className="quiet-button" aria-label={`Keep ${s.name} no longer`} onClick={() => void drop(s)}>
                    drop
                  </button>
                </>
              )}
              <span className="soft small d-block">{s.grades.map((g) => `${g.grade} ${numeral(g.from)}`).join(' · ')}</span>
            </li>
          ))}
        </ul>
      )}
      <p className="soft small mb-0">
        {sets.length === 0 && 'None is kept yet. '}
        {sets.length > 0 && shown.length === 0 && 'None has those words. '}
        {decides && (
          <>
            A course takes one, or keeps its own, at <Link to={`/courses/${courseId}/set-out/course`}>its grades</Link>.
          </>
        )}
      </p>
    </section>
  )
}
