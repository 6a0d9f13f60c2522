import { Plus, Trash2 } from 'lucide-react'
import type { RubricBody } from '#contract'
import { NumberField } from '../../parts/NumberField'
import { WordsField } from './WordsField'
import styles from './agree.module.css'

type Band = NonNullable<RubricBody['bands']>[number]

/** Words for the whole, by the percent from which they hold. */
export function Bands({ bands, onChange }: { bands: Band[]; onChange: (bands: Band[], label: string) => void }) {
  const sorted = [...bands].sort((a, b) => b.from - a.from)
  const put = (band: Band, patch: Partial<Band>, label: string) =>
    onChange(
      bands.map((b) => (b === band ? { ...b, ...patch } : b)),
      label,
    )
  const add = () => {
    const top = sorted[0]
    onChange([...bands, { from: top ? Math.min(100, Math.round((top.from + 100) / 2)) : 0, words: '' }], 'a band for the whole')
  }
  return (
    <section className={styles.criterion} aria-label="Words for the whole">
      <div className={styles.criterionHead}>
        <h3 className="flex-grow-1" style={{ fontFamily: 'var(--sans)' }}>
          The whole in words
        </h3>
        <button className="quiet-button" onClick={add}>
          <Plus size={14} aria-hidden /> another band
        </button>
      </div>
      {sorted.map((b, i) => (
        <div key={i} className={styles.band}>
          <span className="soft text-nowrap">
            from{' '}
            <NumberField
              label={`Band ${i + 1} holds from percent`}
              className="short"
              value={b.from}
              min={0}
              max={100}
              onCommit={(from) => from !== null && put(b, { from }, 'where a band begins')}
            />{' '}
            %
          </span>
          <WordsField
            label={`Words of band ${i + 1}`}
            value={b.words}
            placeholder="what work in this band is"
            onCommit={(words) => put(b, { words }, 'words of a band')}
          />
          <button
            className={styles.quietIcon}
            aria-label={`Remove band ${i + 1}`}
            onClick={() =>
              onChange(
                bands.filter((x) => x !== b),
                'remove a band',
              )
            }
          >
            <Trash2 size={14} aria-hidden />
          </button>
        </div>
      ))}
    </section>
  )
}
