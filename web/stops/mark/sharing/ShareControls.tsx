import { Button, Form } from 'react-bootstrap'
import { routes, type Sharing, type SharingTried } from '#contract'
import { useKeys } from '../../../settings/keys'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { NumberField } from '../../../parts/NumberField'
import { counted } from '../../../parts/format'
import { Panels } from './Panels'
import type { Rule } from './rule'
import styles from './sharing.module.css'

const HOW: Record<Rule['how'], string> = {
  draw: 'by a draw',
  'by section': 'by section',
  everyone: 'everyone reads all',
  panels: 'by panels',
  sample: 'a sample, read again',
}

interface Props {
  courseId: string
  sharing: Sharing
  rule: Rule
  tried: SharingTried | null
  problem: string | null
  trying: boolean
  onSet: (rule: Rule) => void
  onTry: () => void
  onDone: () => void
}

/** How the reading is shared out, and what that would give before it is done. */
export function ShareControls({ courseId, sharing, rule, tried, problem, trying, onSet, onTry, onDone }: Props) {
  const { write } = useWrites()
  const share = async () => {
    const params = { courseId, assessmentId: sharing.assessment.id }
    const done = await write(`share ${sharing.assessment.title} out`, ask(routes.shareOut, { params, body: rule }), ({ latest }) =>
      ask(routes.takeBackSharing, { params: { ...params, sharingId: latest! } }),
    )
    if (done) onDone()
  }
  useKeys(trying && tried ? [{ key: 'Ctrl+Enter', does: 'share it out as shown', inFields: true, run: () => void share() }] : [])
  const unnamed = rule.how === 'panels' && rule.panels.some((p) => p.length === 0)
  // Who has no time for it any more, with scripts that are begun.
  const leaving = rule.how === 'draw' ? sharing.loads.filter((l) => l.draft > 0 && !rule.markers.some((m) => m.id === l.id)) : []
  const begun = tried?.loads.reduce((n, l) => n + l.kept, 0) ?? 0
  const sampled = tried?.sample.reduce((n, s) => n + s.scripts, 0) ?? 0
  const drawn = rule.how === 'draw' || rule.how === 'sample' || rule.how === 'panels'
  return (
    <div className={styles.shareControls}>
      <div className="d-flex gap-3 align-items-center flex-wrap">
        <span className="pill-choice" role="group" aria-label="How it is shared out">
          {Object.entries(HOW).map(([how, words]) => (
            <button key={how} aria-pressed={rule.how === how} onClick={() => onSet({ ...rule, how: how as Rule['how'] })}>
              {words}
            </button>
          ))}
        </span>
        {rule.how === 'draw' && (
          <span>
            <NumberField
              label="Readings of each script"
              className="short"
              value={rule.readings}
              min={1}
              max={9}
              onCommit={(n) => n !== null && onSet({ ...rule, readings: Math.round(n) })}
            />{' '}
            readings each
          </span>
        )}
        {drawn && (
          <Form.Check
            id="avoid-own"
            label="nobody their own section"
            checked={rule.avoidOwnSection}
            onChange={(e) => onSet({ ...rule, avoidOwnSection: e.target.checked })}
          />
        )}
        {rule.how === 'draw' && sharing.loads.some((l) => l.allotted > 0) && (
          <Form.Check
            id="keep-readers"
            label="who reads what stays"
            title="Only what has too few readers is given out, and what belongs to somebody whose time is 0"
            checked={rule.keep}
            onChange={(e) => onSet({ ...rule, keep: e.target.checked })}
          />
        )}
        {drawn && trying && (
          <button className="quiet-button" onClick={() => onSet({ ...rule, seed: rule.seed + 1 })}>
            draw again
          </button>
        )}
      </div>
      {rule.how === 'panels' && <Panels panels={rule.panels} markers={sharing.loads} onSet={(panels) => onSet({ ...rule, panels })} />}
      {rule.how === 'sample' && rule.sample.only && (
        <p className="mb-0 d-flex gap-3 align-items-baseline">
          <span>
            One more reading of the <b>{counted(rule.sample.only.length, 'student')}</b> carried here.
          </span>
          <button className="quiet-button" onClick={() => onSet({ ...rule, sample: { ...rule.sample, only: undefined } })}>
            Draw a sample instead
          </button>
        </p>
      )}
      {rule.how === 'sample' && !rule.sample.only && (
        <p className="mb-0">
          <NumberField
            label="Share in percent"
            className="short"
            value={rule.sample.share * 100}
            min={0}
            max={100}
            onCommit={(p) => p !== null && onSet({ ...rule, sample: { ...rule.sample, share: p / 100 } })}
          />{' '}
          % of the scripts, at least{' '}
          <NumberField
            label="At least so many"
            className="short"
            value={rule.sample.least}
            min={0}
            max={10_000}
            onCommit={(n) => n !== null && onSet({ ...rule, sample: { ...rule.sample, least: Math.round(n) } })}
          />
          , every fail, and all within{' '}
          <NumberField
            label="Within so many marks of a boundary"
            className="short"
            value={rule.sample.zone}
            min={0}
            max={1000}
            step={0.5}
            onCommit={(n) => n !== null && onSet({ ...rule, sample: { ...rule.sample, zone: n } })}
          />{' '}
          marks of a boundary
        </p>
      )}
      {leaving.length > 0 && (
        <div>
          {leaving.map((l) => (
            <Form.Check
              key={l.id}
              id={`move-${l.id}`}
              label={`the ${counted(l.draft, 'script')} that ${l.name} has begun go to others too; what is begun is kept`}
              checked={rule.moveBegun.includes(l.id)}
              onChange={(e) =>
                onSet({ ...rule, moveBegun: [...rule.moveBegun.filter((id) => id !== l.id), ...(e.target.checked ? [l.id] : [])] })
              }
            />
          ))}
        </div>
      )}
      {unnamed && <p className="soft mb-0">Put somebody on every panel, and you see what it would give.</p>}
      {problem && (
        <p className="note bad mb-0" role="alert">
          {problem}
        </p>
      )}
      <div className="d-flex gap-3 align-items-baseline flex-wrap" role="status">
        {!trying ? (
          <Button variant="outline-primary" onClick={onTry}>
            See what it would give
          </Button>
        ) : (
          tried &&
          !unnamed && (
            <>
              <span>
                <b>{counted(tried.readings, 'reading')}</b> given out anew, {tried.stay} stay with their readers
                {begun > 0 && ` (${begun} begun or done)`}
                {tried.taken > 0 && `, ${tried.taken} taken from their readers`}.
                {sampled > 0 &&
                  ` The sample is ${counted(sampled, 'script')}: ${tried.sample.map((s) => `${s.scripts} ${s.why}`).join(', ')}.`}
                {tried.readingsWanted !== sharing.assessment.readingsWanted && (
                  <>
                    {' '}
                    A script then has no mark before <b>{counted(tried.readingsWanted, 'reading')}</b> are in (
                    {sharing.assessment.readingsWanted} now)
                    {tried.opens > 0 && (
                      <span className="ochre">
                        , and {counted(tried.opens, 'mark')} that now {tried.opens === 1 ? 'stands' : 'stand'} would be open
                      </span>
                    )}
                    .
                  </>
                )}
                {tried.ownSection > 0 && <span className="ochre"> {tried.ownSection} could not be kept from their own section.</span>}
                {tried.notes.map((n) => (
                  <span key={n} className="ochre">
                    {' '}
                    {n}
                  </span>
                ))}
              </span>
              <Button onClick={() => void share()}>
                Share it out <kbd>Ctrl ↵</kbd>
              </Button>
              <Button variant="link" onClick={onDone}>
                Leave it
              </Button>
            </>
          )
        )}
      </div>
    </div>
  )
}
