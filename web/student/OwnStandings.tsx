import type { OwnWork } from '#contract'
import { LevelRuler } from '../parts/LevelRuler'
import styles from './student.module.css'

/** Where a student stands on what the course is about, in places and words, with what comes next. */
export function OwnStandings({ standings }: { standings: OwnWork['standings'] }) {
  return (
    <section aria-label="Where you stand">
      <h2>Where you stand</h2>
      {standings === null && (
        <p className="soft">The course is being looked at again. Where you stand is shown once it is confirmed anew.</p>
      )}
      {standings?.map((s) => (
        <article key={s.title} className={styles.ownStanding}>
          <h3>{s.title}</h3>
          <p className="soft mb-1">{s.statement}</p>
          <LevelRuler
            labels={s.levels.map((l) => l.label)}
            reached={s.reached}
            standing={{ level: s.level, reached: s.isReached, results: s.results, history: s.history }}
          />
          {s.level !== null && (
            <p className="mb-0">
              {s.levels[s.level - 1]?.words}
              {s.levels[s.level] && (
                <span className="soft">
                  {' '}
                  Next, {s.levels[s.level]!.label}: {s.levels[s.level]!.words}
                </span>
              )}
            </p>
          )}
        </article>
      ))}
    </section>
  )
}
