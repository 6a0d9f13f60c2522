import type { LevelPlace } from '#core/exchange/case'
import { placeKey } from '#core/exchange/unscored'
import { levelText } from '#core/scales'
import type { RubricCriterion } from '#contract'
import { NumberField } from '../../parts/NumberField'
import { counted } from '../../parts/format'

interface Props {
  criteria: readonly RubricCriterion[]
  unscored: readonly LevelPlace[]
  given: Readonly<Record<string, number>>
  onGive: (key: string, points: number | null) => void
}

/** Asks for the points of levels that a file names without a score. */
export function UnscoredLevels({ criteria, unscored, given, onGive }: Props) {
  return (
    <fieldset className="mt-3">
      <legend className="ochre mb-1 fs-6">
        The file gives {counted(unscored.length, 'level')} no score. How many points {unscored.length === 1 ? 'is it' : 'are they'} worth?
      </legend>
      {unscored.map((place) => {
        const [criterion, key] = [criteria[place.criterion]!, placeKey(place)]
        const words = levelText(criterion.levels[place.level]!) || `level ${place.level + 1}`
        return (
          <div key={key} className="d-flex gap-2 align-items-baseline mb-1">
            <NumberField
              label={`Points of “${words.slice(0, 60)}” in ${criterion.title}`}
              value={given[key] ?? null}
              min={0}
              max={10_000}
              className="short"
              onCommit={(points) => onGive(key, points)}
            />
            <span className="soft small">
              {criterion.title}: {words.slice(0, 120)}
            </span>
          </div>
        )
      })}
    </fieldset>
  )
}
