import { criterionMaximum, levelText, rubricMaximum } from '#core/scales'
import type { Library, RubricBody } from '#contract'
import { numeral } from '../../parts/format'
import { Ruler } from '../../parts/Ruler'
import { InPart } from './InPart'
import { KINDS, type Entry, type Hides } from './library'
import { BandsInWords } from '../../parts/standard/BandsInWords'
import { OutcomeLevels } from './OutcomeLevels'
import { ScaleAxis } from './ScaleAxis'
import styles from './agree.module.css'

/** An entry as it stands: criteria as rulers, a scale on one axis; or what of it may be seen while one marks. */
export function ReadOnly({ entry, outcomes, hides }: { entry: Entry; outcomes: Library['outcomes']; hides: Hides }) {
  const hidden = hides.points || hides.words
  return (
    <>
      <div className="stop-head">
        <h1>{entry.standard.title}</h1>
        <span className="soft small">
          {KINDS[entry.kind]}, version {entry.standard.version}
          {entry.kind === 'rubric' && !hidden && `, ${numeral(rubricMaximum(entry.standard))} points`}
        </span>
        {entry.standard.state !== 'ready' && <span className="ochre small">{entry.standard.state}</span>}
      </div>
      {hidden ? (
        <InPart entry={entry} hides={hides} />
      ) : (
        <>
          {entry.kind === 'rubric' && <RubricRulers rubric={entry.standard} outcomes={outcomes} />}
          {entry.kind === 'scheme' && <SchemeRulers criteria={entry.standard.criteria} />}
          {entry.kind === 'outcome' && <OutcomeLevels outcome={entry.standard} />}
          {entry.kind === 'scale' && <ScaleAxis title={entry.standard.title} labels={entry.standard.labels} />}
        </>
      )}
    </>
  )
}

function RubricRulers({ rubric, outcomes }: { rubric: RubricBody; outcomes: Library['outcomes'] }) {
  const longest = Math.max(1, ...rubric.criteria.map(criterionMaximum))
  return (
    <div className={styles.rulers}>
      {rubric.criteria.map((c) => {
        const top = criterionMaximum(c)
        return (
          <section key={c.id}>
            <h3>
              {c.title}{' '}
              <span className="soft small fw-normal">{c.penalty ? 'penalty' : c.ranges ? 'any half point inside a level' : ''}</span>
              <span className="number soft fw-normal float-end">{c.penalty ? `up to ${numeral(top)} off` : `of ${numeral(top)}`}</span>
            </h3>
            {c.description && (
              <p className="soft small mb-1" dir="auto">
                {c.description}
              </p>
            )}
            <Ruler
              title={c.title}
              longest={longest}
              sign={c.penalty ? -1 : 1}
              descending={rubric.descending}
              stops={c.levels.map((l) => ({ points: l.points, to: c.ranges ? l.to : undefined, words: levelText(l) }))}
            />
            {c.outcomeIds && (
              <p className="soft small mb-1">
                gives evidence of{' '}
                {outcomes
                  .filter((o) => c.outcomeIds!.includes(o.id))
                  .map((o) => o.title)
                  .join(', ')}
              </p>
            )}
          </section>
        )
      })}
      <BandsInWords bands={rubric.bands} />
    </div>
  )
}

function SchemeRulers({ criteria }: { criteria: { id: string; title: string; max: number; words: string }[] }) {
  const longest = Math.max(1, ...criteria.map((c) => c.max))
  return (
    <div className={styles.rulers}>
      {criteria.map((c) => (
        <section key={c.id}>
          <h3>
            {c.title} <span className="soft small fw-normal">free points</span>
            <span className="number soft fw-normal float-end">of {numeral(c.max)}</span>
          </h3>
          <Ruler
            title={c.title}
            longest={longest}
            stops={[
              { points: 0, to: c.max, words: c.words },
              { points: c.max, words: '' },
            ]}
          />
        </section>
      ))}
    </div>
  )
}
