import { Fragment } from 'react'
import { Form } from 'react-bootstrap'
import { labelsOfLevels, percentsInProportion } from '#core/outcomes'
import type { CourseOutcome, Library, LevelsWorth } from '#contract'
import { NumberField } from '../../../parts/NumberField'
import { numeral } from '../../../parts/format'

type ScaleEntry = Library['scales'][number]

/** What levels are worth by a scale, before anybody says which label is meant. */
export const byScale = (levels: CourseOutcome['levels'], scale: ScaleEntry): LevelsWorth => ({
  kind: 'scale',
  scaleId: scale.id,
  labels: labelsOfLevels(
    levels.map((l) => l.label),
    scale.labels.map((l) => l.label),
  ),
})
export const inProportion = (levels: CourseOutcome['levels']): LevelsWorth => ({
  kind: 'typed',
  percents: percentsInProportion(levels.length),
})

interface Props {
  levels: CourseOutcome['levels']
  scales: readonly ScaleEntry[]
  worth: LevelsWorth
  onWorth: (worth: LevelsWorth) => void
}

/** What each level is worth: percents that are typed, or the labels of a scale that it is read off as. */
export function LevelsWorthFields({ levels, scales, worth, onWorth }: Props) {
  const scale = worth.kind === 'scale' ? scales.find((s) => s.id === worth.scaleId) : undefined
  const put = <T,>(list: readonly T[], at: number, value: T) => list.map((x, i) => (i === at ? value : x))
  return (
    <>
      <Form.Select
        size="sm"
        className="mt-1"
        aria-label="What levels are worth"
        value={scale?.id ?? ''}
        onChange={(e) => {
          const chosen = scales.find((s) => s.id === e.target.value)
          onWorth(chosen ? byScale(levels, chosen) : inProportion(levels))
        }}
      >
        <option value="">worth percents that I type</option>
        {scales.map((s) => (
          <option key={s.id} value={s.id}>
            read off {s.title}
          </option>
        ))}
      </Form.Select>
      <dl className="fields">
        {levels.map((l, i) => (
          <Fragment key={l.label}>
            <dt>{l.label}</dt>
            <dd>
              {worth.kind === 'typed' ? (
                <>
                  <NumberField
                    label={`Percent for ${l.label}`}
                    className="short"
                    value={worth.percents[i]!}
                    min={0}
                    max={100}
                    onCommit={(p) => p !== null && onWorth({ ...worth, percents: put(worth.percents, i, p) })}
                  />
                  <span className="soft">%</span>
                </>
              ) : (
                <Form.Select
                  size="sm"
                  aria-label={`Label for ${l.label}`}
                  value={worth.labels[i]}
                  onChange={(e) => onWorth({ ...worth, labels: put(worth.labels, i, Number(e.target.value)) })}
                >
                  {scale?.labels.map((s, place) => (
                    <option key={s.label} value={place}>
                      {s.label}, {numeral(s.percent)}%
                    </option>
                  ))}
                </Form.Select>
              )}
            </dd>
          </Fragment>
        ))}
      </dl>
    </>
  )
}
