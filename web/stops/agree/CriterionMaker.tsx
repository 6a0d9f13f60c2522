import { ArrowDown, ArrowUp, Copy, Trash2, X } from 'lucide-react'
import { Form } from 'react-bootstrap'
import { criterionMaximum, resizeCriterion } from '#core/scales'
import type { Library, RubricCriterion } from '#contract'
import { NumberField } from '../../parts/NumberField'
import { TitleField } from '../../parts/TitleField'
import { PullRuler } from './PullRuler'
import { WordsField } from './WordsField'
import styles from './agree.module.css'

type Level = RubricCriterion['levels'][number]

interface Props {
  criterion: RubricCriterion
  longest: number
  /** Whether the comments kept ready are shown. */
  comments: boolean
  /** What pulled and resized points are multiples of. */
  step: number
  outcomes: Library['outcomes']
  onChange: (criterion: RubricCriterion, label: string) => void
  onDuplicate: () => void
  onRemove: () => void
  onMove: (by: number) => void
}

/** A criterion: its ruler, and under it a column for each level with its points and words. */
export function CriterionMaker({ criterion: c, longest, comments, step, outcomes, onChange, onDuplicate, onRemove, onMove }: Props) {
  const top = criterionMaximum(c)
  const linked = outcomes.filter((o) => c.outcomeIds?.includes(o.id))
  const setLevel = (i: number, patch: Partial<Level>, label: string) =>
    onChange({ ...c, levels: c.levels.map((l, at) => (at === i ? { ...l, ...patch } : l)) }, label)
  const addLevel = () => {
    const last = c.levels.at(-1)?.points ?? 0
    onChange({ ...c, levels: [...c.levels, { points: last + 1, words: '' }] }, `add a level to ${c.title}`)
  }
  const setRanges = (ranges: boolean) => {
    // A range reaches to just before the next level, until somebody says otherwise.
    const levels = c.levels.map((l, i) => {
      const next = c.levels[i + 1]
      return ranges ? { ...l, to: next ? Math.max(l.points, next.points - step) : l.points } : withoutRange(l)
    })
    onChange({ ...c, ranges, levels }, ranges ? `ranges in ${c.title}` : `no ranges in ${c.title}`)
  }
  return (
    <section
      className={styles.criterion}
      aria-label={c.title}
      onKeyDown={(e) => {
        const by = e.altKey ? { ArrowUp: -1, ArrowDown: 1 }[e.key] : undefined
        if (by === undefined) return
        e.preventDefault()
        onMove(by)
      }}
    >
      <div className={styles.criterionHead}>
        <TitleField
          label={`Title of ${c.title}`}
          value={c.title}
          disabled={false}
          onCommit={(title) => onChange({ ...c, title }, `rename ${c.title}`)}
        />
        <Form.Check id={`ranges-${c.id}`} label="ranges" checked={c.ranges} onChange={(e) => setRanges(e.target.checked)} />
        <Form.Check
          id={`penalty-${c.id}`}
          label="penalty"
          checked={c.penalty}
          onChange={(e) => onChange({ ...c, penalty: e.target.checked }, `${c.title} a penalty or not`)}
        />
        <span className="soft text-nowrap">
          {c.penalty ? 'up to' : 'of'}{' '}
          <NumberField
            label={`Maximum of ${c.title}`}
            className="short"
            value={top}
            min={0.5}
            max={1000}
            onCommit={(m) =>
              m !== null && top > 0 && onChange({ ...c, ...resizeCriterion(c, m, step) } as RubricCriterion, `resize ${c.title}`)
            }
          />
        </span>
        <span className={styles.icons}>
          <button title="Up (Alt ↑)" aria-label={`Move ${c.title} up`} onClick={() => onMove(-1)}>
            <ArrowUp size={14} aria-hidden />
          </button>
          <button title="Down (Alt ↓)" aria-label={`Move ${c.title} down`} onClick={() => onMove(1)}>
            <ArrowDown size={14} aria-hidden />
          </button>
          <button title="Duplicate with its levels" aria-label={`Duplicate ${c.title}`} onClick={onDuplicate}>
            <Copy size={14} aria-hidden />
          </button>
          <button title="Remove" aria-label={`Remove ${c.title}`} onClick={onRemove}>
            <Trash2 size={14} aria-hidden />
          </button>
        </span>
      </div>
      <WordsField
        label={`What ${c.title} is about`}
        value={c.description ?? ''}
        placeholder="what it is about, where the title does not say enough"
        quiet
        onCommit={(description) => onChange({ ...c, description: description.trim() || undefined }, `what ${c.title} is about`)}
      />
      <PullRuler
        criterion={c}
        longest={longest}
        step={step}
        onPull={(i, points) =>
          setLevel(
            i,
            { points, ...(c.levels[i]!.to !== undefined && c.levels[i]!.to < points ? { to: points } : {}) },
            `move a level of ${c.title}`,
          )
        }
      />
      <div
        className={styles.levels}
        style={{ gridTemplateColumns: `repeat(${Math.max(1, c.levels.length)}, minmax(${c.ranges ? 128 : 96}px, 1fr)) 28px` }}
      >
        {c.levels.map((l, i) => (
          <div key={i} className={styles.oneLevel}>
            <div className={styles.points}>
              <NumberField
                label={`Points of level ${i + 1} of ${c.title}`}
                className="short"
                value={l.points}
                min={0}
                max={1000}
                step={step}
                onCommit={(points) => points !== null && setLevel(i, { points }, `points in ${c.title}`)}
              />
              {c.ranges && (
                <>
                  {' to '}
                  <NumberField
                    label={`Upper end of level ${i + 1} of ${c.title}`}
                    className="short"
                    value={l.to ?? l.points}
                    min={l.points}
                    max={1000}
                    step={step}
                    onCommit={(to) => to !== null && setLevel(i, { to }, `range in ${c.title}`)}
                  />
                </>
              )}
              {c.levels.length > 1 && (
                <button
                  className={styles.icon}
                  title="Remove this level"
                  aria-label={`Remove level ${i + 1} of ${c.title}`}
                  onClick={() => onChange({ ...c, levels: c.levels.filter((_, at) => at !== i) }, `remove a level of ${c.title}`)}
                >
                  <X size={13} aria-hidden />
                </button>
              )}
            </div>
            <TitleField
              label={`Name of level ${i + 1} of ${c.title}`}
              value={l.name ?? ''}
              placeholder="name, if any"
              optional
              disabled={false}
              onCommit={(name) => setLevel(i, { name: name || undefined }, `name of a level of ${c.title}`)}
            />
            <WordsField
              label={`Words of level ${i + 1} of ${c.title}`}
              value={l.words}
              placeholder="what this level looks like"
              onCommit={(words) => setLevel(i, { words }, `words in ${c.title}`)}
            />
            {comments && (
              <WordsField
                label={`Comment kept ready for level ${i + 1} of ${c.title}`}
                value={l.comment ?? ''}
                placeholder="comment kept ready"
                quiet
                onCommit={(comment) => setLevel(i, { comment: comment || undefined }, `comment in ${c.title}`)}
              />
            )}
          </div>
        ))}
        <button className={styles.addLevel} title="Another level" aria-label={`Another level of ${c.title}`} onClick={addLevel}>
          +
        </button>
      </div>
      {outcomes.some((o) => o.state !== 'retired') && (
        <details className="small">
          <summary className="soft">
            {linked.length > 0 ? `gives evidence of ${linked.map((o) => o.title).join(', ')}` : 'gives evidence of no outcome'}
          </summary>
          <div className={styles.outcomeLinks}>
            {outcomes.map((o) => (
              <Form.Check
                key={o.id}
                id={`outcome-${c.id}-${o.id}`}
                label={o.title}
                checked={!!c.outcomeIds?.includes(o.id)}
                onChange={(e) => {
                  const ids = (c.outcomeIds ?? []).filter((id) => id !== o.id)
                  const outcomeIds = e.target.checked ? [...ids, o.id] : ids
                  onChange({ ...c, outcomeIds: outcomeIds.length > 0 ? outcomeIds : undefined }, `outcomes of ${c.title}`)
                }}
              />
            ))}
          </div>
        </details>
      )}
    </section>
  )
}

const withoutRange = ({ to: _, ...level }: Level): Level => level
