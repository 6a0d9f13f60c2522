import { Plus, Trash2 } from 'lucide-react'
import { Button } from 'react-bootstrap'
import type { Library } from '#contract'
import { NumberField } from '../../parts/NumberField'
import { numeral } from '../../parts/format'
import { TitleField } from '../../parts/TitleField'
import { MakerHead } from './MakerHead'
import { useMaker } from './useMaker'
import { WordsField } from './WordsField'
import styles from './agree.module.css'

/** A mark scheme being made: criteria with maxima of their own, words for students and notes for markers apart. */
export function SchemeMaker({
  courseId,
  scheme,
  onMoved,
}: {
  courseId: string
  scheme: Library['schemes'][number]
  onMoved: (id: string) => void
}) {
  const maker = useMaker<'scheme'>(
    courseId,
    {
      id: scheme.id,
      lineId: scheme.lineId,
      revision: scheme.revision,
      standard: { kind: 'scheme', title: scheme.title, body: { criteria: scheme.criteria } },
    },
    onMoved,
  )
  const { criteria } = maker.body
  const put = (i: number, patch: Partial<(typeof criteria)[number]>, label: string) =>
    maker.edit({ criteria: criteria.map((c, at) => (at === i ? { ...c, ...patch } : c)) }, label)
  const total = criteria.reduce((s, c) => s + c.max, 0)
  const add = () => {
    let n = criteria.length + 1
    while (criteria.some((c) => c.id === `c${n}`)) n++
    maker.edit({ criteria: [...criteria, { id: `c${n}`, title: `Part ${criteria.length + 1}`, max: 5, words: '' }] }, 'add a part')
  }
  return (
    <>
      <MakerHead what="mark scheme" maker={maker}>
        mark scheme, version {scheme.version}, {numeral(total)} points
        {scheme.uses[0] && scheme.uses[0].outOf !== total && `, scaled to ${numeral(scheme.uses[0].outOf)}`}
      </MakerHead>
      <table className={`grid ${styles.scheme}`}>
        <thead>
          <tr>
            <th>part</th>
            <th className="number">points</th>
            <th>words for students</th>
            <th>notes for markers</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {criteria.map((c, i) => (
            <tr key={c.id}>
              <td>
                <TitleField
                  label={`Title of ${c.title}`}
                  value={c.title}
                  disabled={false}
                  onCommit={(title) => put(i, { title }, `rename ${c.title}`)}
                />
              </td>
              <td>
                <NumberField
                  label={`Points of ${c.title}`}
                  value={c.max}
                  min={0.5}
                  max={1000}
                  step={0.5}
                  onCommit={(max) => max !== null && put(i, { max }, `points of ${c.title}`)}
                />
              </td>
              <td>
                <WordsField
                  label={`Words of ${c.title}`}
                  value={c.words}
                  placeholder="what earns them"
                  onCommit={(words) => put(i, { words }, `words of ${c.title}`)}
                />
              </td>
              <td>
                <WordsField
                  label={`Notes of ${c.title}`}
                  value={c.notes ?? ''}
                  placeholder="students never see these"
                  onCommit={(notes) => put(i, { notes: notes || undefined }, `notes of ${c.title}`)}
                />
              </td>
              <td>
                <button
                  className={styles.quietIcon}
                  aria-label={`Remove ${c.title}`}
                  onClick={() => maker.edit({ criteria: criteria.filter((x) => x.id !== c.id) }, `remove ${c.title}`)}
                >
                  <Trash2 size={14} aria-hidden />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button variant="outline-primary" className="mt-3" onClick={add}>
        <Plus size={15} aria-hidden /> Another part
      </Button>
    </>
  )
}
