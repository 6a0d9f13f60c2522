import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse, useFigures } from '../../course/course'
import { useKeptHere } from '../../settings/useKeptHere'
import { WorkingOut } from '../../parts/WorkingOut'
import { shownAt } from '../../parts/format'
import { CHAPTER, CHAPTERS, type Chapter } from './report/chapters'
import { useIssues } from './useIssues'
import { CloseUp } from '../../parts/CloseUp'
import styles from './confirm.module.css'

interface Kept {
  /** Chapters that are left out. */
  without: Chapter[]
  byNumber: boolean
  /** Words before each chapter. */
  words: Partial<Record<Chapter, string>>
}
const USUAL: Kept = { without: [], byNumber: false, words: {} }
const ALL = Object.keys(CHAPTERS) as Chapter[]

/** A report for the board, on paper: chapters chosen, with words of one's own between them. */
export function ReportPart({ nav }: { nav: ReactNode }) {
  const { id, table } = useDecidedCourse()
  const { all } = useIssues()
  const figures = useFigures('report')
  const record = useQuery({ queryKey: ['record', id], queryFn: () => call(routes.record, { params: { courseId: id } }) })
  const [kept, keep] = useKeptHere(`report ${id}`, USUAL)
  if (!figures || !record.data || !all) return <WorkingOut />
  // Only while the course is closed by an issue are its figures the ones that were signed.
  const issue = all.find((i) => i.number === table.head.confirmedIssue) ?? null
  const of = { figures, decisions: record.data, issue, byNumber: kept.byNumber }
  const shown = ALL.filter((c) => !kept.without.includes(c))
  const { code, title, term } = table.head
  return (
    <div className="work">
      <main className={`table-side ${styles.report}`}>
        <div className="stop-head no-print">
          <h1>Report for the board</h1>
          {nav}
        </div>
        <article>
          <header>
            <h1>
              {code} {title}
            </h1>
            <p className="soft">
              {term}, {table.sections.length} sections, {table.students.length} students. As of{' '}
              {shownAt(new Date().toISOString(), 'd MMMM yyyy')}
              {!issue
                ? ': as it stands now, not signed'
                : issue.inForce
                  ? `, issue ${issue.number} in force`
                  : `, issue ${issue.number}, not in force yet`}
              .
            </p>
          </header>
          {shown.map((c) => (
            <section key={c}>
              <h2>{CHAPTERS[c]}</h2>
              {kept.words[c] && <p className={styles.reportWords}>{kept.words[c]}</p>}
              {CHAPTER[c](of)}
            </section>
          ))}
        </article>
      </main>
      <CloseUp className="no-print">
        <section>
          <h2>Chapters</h2>
          <Button size="sm" className="mb-2" onClick={() => window.print()}>
            Print, or keep as PDF
          </Button>
          <p className="soft small">What is chosen and written is kept in this browser.</p>
          {ALL.map((c) => (
            <div key={c} className="mb-2">
              <Form.Check
                id={`chapter-${c}`}
                label={CHAPTERS[c]}
                checked={!kept.without.includes(c)}
                onChange={(e) => keep({ ...kept, without: e.target.checked ? kept.without.filter((x) => x !== c) : [...kept.without, c] })}
              />
              {!kept.without.includes(c) && (
                <Form.Control
                  as="textarea"
                  size="sm"
                  rows={kept.words[c] ? 3 : 1}
                  aria-label={`Words before ${CHAPTERS[c]}`}
                  placeholder="words before it"
                  maxLength={4000}
                  value={kept.words[c] ?? ''}
                  onChange={(e) => keep({ ...kept, words: { ...kept.words, [c]: e.target.value } })}
                />
              )}
            </div>
          ))}
          <Form.Check
            id="by-number"
            label="Markers by number"
            checked={kept.byNumber}
            onChange={(e) => keep({ ...kept, byNumber: e.target.checked })}
          />
        </section>
      </CloseUp>
    </div>
  )
}
