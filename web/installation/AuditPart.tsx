import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Form } from 'react-bootstrap'
import { foldedName } from '#core/roll'
import { AuditKind, routes } from '#contract'
import { addressOf, call, messageOf } from '../api/client'
import { counted, shownAt } from '../parts/format'
import styles from './installation.module.css'

const AT_ONCE = 300

/** What happened to the installation: found by typing and by kind, taken out as CSV. */
export function AuditPart() {
  const audit = useQuery({ queryKey: ['audit'], queryFn: () => call(routes.audit) })
  const [find, setFind] = useState('')
  const [kind, setKind] = useState('')
  const wanted = foldedName(find)
  const found = useMemo(
    () =>
      (audit.data ?? []).filter(
        (r) =>
          (kind === '' || r.kind === kind) &&
          (wanted === '' || [r.kind, r.by, r.about, r.course, r.words].some((text) => text && foldedName(text).includes(wanted))),
      ),
    [audit.data, wanted, kind],
  )
  if (audit.error) return <main className="empty">{messageOf(audit.error)}</main>
  if (!audit.data) return <main className="empty">Fetching what happened…</main>
  return (
    <div className="work alone">
      <main className="table-side">
        <div className="stop-head">
          <h1>What happened</h1>
          <div className="at-end d-flex gap-3 align-items-center">
            <Form.Select size="sm" aria-label="Of which kind" value={kind} onChange={(e) => setKind(e.target.value)}>
              <option value="">of any kind</option>
              {AuditKind.options.map((k) => (
                <option key={k}>{k}</option>
              ))}
            </Form.Select>
            <Form.Control
              size="sm"
              type="search"
              className={styles.findPeople}
              aria-label="Find in the list"
              placeholder="who, whom, course"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            <a className="text-nowrap" href={addressOf(routes.auditCsv)} download>
              Take it out (CSV)
            </a>
          </div>
        </div>
        <table className="grid" aria-label={counted(found.length, 'entry', 'entries')}>
          <thead>
            <tr>
              <th>when</th>
              <th>what</th>
              <th>by</th>
              <th>about</th>
              <th>course</th>
              <th>in words</th>
            </tr>
          </thead>
          <tbody>
            {found.slice(0, AT_ONCE).map((r) => (
              <tr key={r.id}>
                <td className="soft text-nowrap">{shownAt(r.at, 'd MMM yyyy, HH:mm')}</td>
                <td className={`text-nowrap ${r.kind === 'not let in' ? 'ochre' : ''}`}>{r.kind}</td>
                <td className="text-nowrap">{r.by ?? <span className="soft">nobody known</span>}</td>
                <td className="text-nowrap">{r.about !== r.by && r.about}</td>
                <td className="soft text-nowrap">{r.course}</td>
                <td>{r.words}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {found.length > AT_ONCE && (
          <p className="soft small mt-2">
            The latest {AT_ONCE} of {found.length}: type to find others, or take the list out.
          </p>
        )}
        {found.length === 0 && <p className="empty">Nothing of that kind has happened.</p>}
      </main>
    </div>
  )
}
