import { criteriaOf } from '#core/scales'
import type { OwnWork } from '#contract'
import { Judge } from '../parts/judge/Judge'

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

function Said({ words }: { words: readonly string[] }) {
  return words.map((w, i) => (
    <blockquote key={i} className="own-words" dir="auto">
      {w}
    </blockquote>
  ))
}
