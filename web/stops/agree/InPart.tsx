import { levelText } from '#core/scales'
import type { Entry, Hides } from './library'

/** An entry without what is hidden from those who mark by it: criteria and labels in their order, at no distance. */
export function InPart({ entry, hides }: { entry: Entry; hides: Hides }) {
  const what = hides.points && hides.words ? 'Points and words are' : hides.points ? 'Points are' : 'Words are'
  const parts =
    entry.kind === 'rubric'
      ? entry.standard.criteria.map((c) => ({ title: c.title, words: c.levels.map(levelText) }))
      : entry.kind === 'scheme'
        ? entry.standard.criteria.map((c) => ({ title: c.title, words: [c.words] }))
        : entry.kind === 'scale'
          ? entry.standard.labels.map((l) => ({ title: l.label, words: [] }))
          : []
  return (
    <>
      <p className="soft">{what} hidden while it is marked by.</p>
      {parts.map((p, i) => (
        <section key={i} className="mb-3">
          <h3 dir="auto">{p.title}</h3>
          {!hides.words && p.words.length > 0 && (
            <ol className="mb-0">
              {p.words.map((w, k) => (
                <li key={k} dir="auto">
                  {w}
                </li>
              ))}
            </ol>
          )}
        </section>
      ))}
    </>
  )
}
