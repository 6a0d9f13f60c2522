import type { RubricCriterion } from '#contract'

/** A level's name, and the words that describe it. */
export function LevelWords({ level: { name, words } }: { level: Pick<RubricCriterion['levels'][number], 'name' | 'words'> }) {
  return (
    <>
      {name && <b>{name}</b>}
      {name && words && ' '}
      {words}
    </>
  )
}
