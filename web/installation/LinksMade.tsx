import { useState } from 'react'
import { Button } from 'react-bootstrap'
import type { WayIn } from '#contract'
import { counted, shownAt } from '../parts/format'
import styles from './installation.module.css'

/** One-time links, shown this once: copied by hand where the post did not take them. */
export function LinksMade({ links, names }: { links: readonly WayIn[]; names: ReadonlyMap<string, { name: string; signIn: string }> }) {
  const [copied, setCopied] = useState(false)
  const { endsAt } = links[0]!
  const unsent = links.filter((l) => l.sent !== true)
  const whose = (l: WayIn) => names.get(l.personId)
  const lines = links.map((l) => [whose(l)?.name, whose(l)?.signIn, l.link].join('\t')).join('\n')
  return (
    <div className="note mt-2">
      <p className="mb-1" role="status">
        {links.length === 1 ? 'The link' : counted(links.length, 'link')}
        {endsAt === null
          ? ` ${links.length === 1 ? 'leads' : 'lead'} to the door, where they come in by your provider`
          : ` ${links.length === 1 ? 'is' : 'are'} good once, until ${shownAt(endsAt, 'd MMMM')}`}
        {unsent.length === 0 ? ', and went out by post.' : '.'} {endsAt !== null && 'Shown only now.'}
      </p>
      {unsent.length > 0 && (
        <p className="ochre mb-1">
          {counted(unsent.length, 'letter')} did not go out: {unsent[0]!.sent}
        </p>
      )}
      <ul className={`list-unstyled mb-2 ${styles.links}`}>
        {links.slice(0, 50).map((l) => (
          <li key={l.personId}>
            {links.length > 1 && <span>{whose(l)?.name} </span>}
            <input
              className={styles.linkMade}
              readOnly
              aria-label={`Link for ${whose(l)?.name ?? 'them'}`}
              value={l.link}
              onFocus={(e) => e.target.select()}
            />
          </li>
        ))}
      </ul>
      {links.length > 50 && <p className="soft small">And {links.length - 50} more, which are copied too.</p>}
      <Button
        size="sm"
        variant="outline-primary"
        onClick={() =>
          void navigator.clipboard?.writeText(links.length === 1 ? links[0]!.link : lines).then(
            () => setCopied(true),
            () => setCopied(false),
          )
        }
      >
        {links.length === 1 ? 'Copy it' : 'Copy all'}
      </Button>{' '}
      <span className="soft small" role="status">
        {copied && 'Copied.'}
      </span>
    </div>
  )
}
