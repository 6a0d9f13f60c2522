import { routes, type IssueHead } from '#contract'
import { addressOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { shownAt } from '../../parts/format'

/** All issues with who signed them, and their files. */
export function IssueList({ issues }: { issues: readonly IssueHead[] }) {
  const { id } = useDecidedCourse()
  return (
    <section>
      <h2>Issues</h2>
      <ul className="people small">
        {issues.map((i) => (
          <li key={i.number} className="d-block">
            <b>Issue {i.number}</b>
            {i.inForce && <span> in force</span>}
            {i.reopened && (
              <span className="soft">
                {' '}
                reopened by {i.reopened.by}: {i.reopened.reason}
              </span>
            )}
            <br />
            {i.signatures.map((s) => (
              <span key={`${s.by} ${s.at}`} className="d-block">
                {s.by}, {s.role}, {shownAt(s.at, 'd MMM yyyy')}: <span className="soft">{s.statement}</span>
              </span>
            ))}
            {(['resultsCsv', 'resultsXlsx', 'resultsJson'] as const).map((file) => (
              <a key={file} className="me-2" href={addressOf(routes[file], { courseId: id, number: i.number })} download>
                {file.slice('results'.length).toUpperCase()}
              </a>
            ))}
            <span className="soft" title={i.hash}>
              hash {i.hash.slice(0, 12)}…
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
