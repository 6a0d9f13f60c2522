import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Button } from 'react-bootstrap'
import { routes } from '#contract'
import { call, messageOf } from '../api/client'
import { useWrites } from '../saving/writes'
import { counted, shownAt } from '../parts/format'
import styles from './installation.module.css'

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(1)} MB`

/** The backups there are, the last good one first, and one more when asked for. */
export function KeepingPart() {
  const { write } = useWrites()
  const queries = useQueryClient()
  const keeping = useQuery({ queryKey: ['keeping'], queryFn: () => call(routes.keeping) })
  if (keeping.error) return <main className="empty">{messageOf(keeping.error)}</main>
  if (!keeping.data) return <main className="empty">Fetching what is kept…</main>
  const { backups, old, problem, hours, keep, folder } = keeping.data
  const latest = backups[0]
  const make = async () => {
    const done = await write('a backup', () => call(routes.backUp))
    if (done) queries.setQueryData(['keeping'], done)
  }
  return (
    <div className="work alone">
      <main className="table-side">
        <div className="stop-head">
          <h1>Keeping it safe</h1>
          <div className="at-end">
            <Button size="sm" onClick={() => void make()}>
              Back up now
            </Button>
          </div>
        </div>
        <p role="status" className={old || problem ? 'note bad' : undefined}>
          {latest
            ? `The last good backup is of ${shownAt(latest.at, 'd MMMM yyyy, HH:mm')}: ${megabytes(latest.bytes)}, ${latest.rows} rows, each reference and page checked.`
            : 'There is no backup yet.'}
          {old && latest && ' That is longer ago than it should be.'}
          {problem && ` The last try failed: ${problem}`}
        </p>
        <p className="soft">
          {hours > 0 ? `One is made every ${counted(hours, 'hour')}` : 'None is made by itself'}; the latest {keep} are kept in{' '}
          <code>{folder}</code>. A folder on another disk, or copied to one, outlives this machine. They are restored by command, while the
          server is stopped: see running Level Table.
        </p>
        {backups.length > 0 && (
          <table className={`grid ${styles.keeping}`} aria-label={counted(backups.length, 'backup')}>
            <thead>
              <tr>
                <th>made</th>
                <th className="number">size</th>
                <th className="number">rows</th>
                <th>folder</th>
              </tr>
            </thead>
            <tbody>
              {backups.map((b) => (
                <tr key={b.name}>
                  <td className="text-nowrap">{shownAt(b.at, 'd MMM yyyy, HH:mm')}</td>
                  <td className="number">{megabytes(b.bytes)}</td>
                  <td className="number">{b.rows}</td>
                  <td className="soft">{b.name}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
    </div>
  )
}
