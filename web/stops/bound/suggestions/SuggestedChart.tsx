import type { SuggestedLine } from '#core/bounds'
import type { Boundary, CourseResult } from '#core/grades'
import { fixed, numeral } from '../../../parts/format'
import { BoundChart } from '../lines/BoundChart'

interface Props {
  result: CourseResult
  boundaries: Boundary[]
  lines: readonly SuggestedLine[]
}

const nothing = () => undefined

/** The percents with the lines as they are, dotted, and those that are suggested with how far other samples would move them. */
export function SuggestedChart({ result, boundaries, lines }: Props) {
  const suggested = boundaries.map((b) => ({ ...b, from: lines.find((l) => l.grade === b.grade)?.from ?? b.from }))
  const says = lines.flatMap((l) => (l.from === null ? [] : `${l.grade} at ${numeral(Number(l.from.toFixed(1)))}`))
  return (
    <>
      <BoundChart
        result={result}
        boundaries={suggested}
        adopted={boundaries}
        zone={null}
        bands={lines.flatMap((l) => (l.band ? [l.band] : []))}
        chosen={-1}
        disabled
        onChoose={nothing}
        onPull={nothing}
        onLetGo={nothing}
        onPick={nothing}
      />
      <p className="soft small mb-1">
        {says.length > 0 ? `Suggested: ${says.join(', ')}. ` : ''}
        Bands: where other samples of such students would put the line
        {lines.some((l) => l.band)
          ? ` (${lines
              .map((l) => (l.band ? `${l.grade} ${fixed(l.band[0])} to ${fixed(l.band[1])}` : ''))
              .filter(Boolean)
              .join(', ')})`
          : ''}
        ; dotted: as it is now.
      </p>
    </>
  )
}
