import { criteriaOf } from '#core/scales'
import type { OwnWork } from '#contract'
import { numeral } from '../parts/format'
import { Judge } from '../parts/judge/Judge'
import styles from './student.module.css'

const SEES_ALL = { hidePoints: false, hideWords: false }

type Work = OwnWork['work'][number]
interface Props {
  work: Work
  levels: NonNullable<Work['levels']>
  outOf: number
}

/** The levels that a piece of work reached on what it was judged by, each with what was remarked on it. */
export function Reached({ work: { assessment, remarks }, levels, outOf }: Props) {
  const titles = new Set(criteriaOf(levels.standard).map((c) => c.title))
  const wordsOn = (title: string) => remarks.flatMap((r) => r.parts.filter((p) => p.title === title && p.words !== '').map((p) => p.words))
  // What was noted on something that it is not judged by (any more) stands with what was said of the whole.
  const onAll = remarks.flatMap((r) => [
    ...(r.comment === '' ? [] : [r.comment]),
    ...r.parts.flatMap((p) => (titles.has(p.title) || p.words === '' ? [] : `${p.title}: ${p.words}`)),
  ])
  return (
    <section aria-label={`What your ${assessment} reached`}>
      <h2>What your {assessment} reached</h2>
      {levels.agreed && <p className="soft">Agreed on by its readers, criterion by criterion.</p>}
      <InWords levels={levels} />
      <Said words={onAll} />
      <Judge
        standard={levels.standard}
        outOf={outOf}
        use={SEES_ALL}
        judged={levels.judged}
        below={(_, title) => <Said words={wordsOn(title)} />}
      />
    </section>
  )
}

/** The same as a list, for who does not see the rulers. */
function InWords({ levels: { standard, judged } }: Pick<Props, 'levels'>) {
  const lines = criteriaOf(standard).map((c) => {
    const points = judged.picks[c.id]
    if (points === undefined) return `${c.title}: not judged`
    const words = c.levels.findLast((l) => points >= l.points)?.words
    return `${c.title}: ${numeral(points)} ${c.penalty ? `taken off of at most ${numeral(c.max)}` : `of ${numeral(c.max)}`}${words ? `, ${words}` : ''}`
  })
  return (
    <ul className="visually-hidden" aria-label="In words">
      {(judged.judgement === null ? lines : [judged.judgement, ...lines]).map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  )
}

function Said({ words }: { words: readonly string[] }) {
  return words.map((w, i) => (
    <blockquote key={i} className={styles.ownWords} dir="auto">
      {w}
    </blockquote>
  ))
}
