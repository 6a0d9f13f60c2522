/** Readings of one script as shapes on one line, the tolerance band, and the agreed mark as a long tick. */
interface Props {
  readings: { mark: number; markerId: string }[]
  /** A mark typed in the sheet that the readings do not bear out; null where there is none. */
  typed?: number | null
  agreed: number | null
  /** Whether the agreed mark is only being tried. */
  trying: boolean
  tolerance: number
  from: number
  to: number
  width?: number
  words: string
}

const H = 30
const PAD = 8
const COLOURS = ['var(--plum)', 'var(--harbour)', 'var(--moss)', 'var(--clay)']

export function ReadingsLine({ readings, typed = null, agreed, trying, tolerance, from, to, width = 400, words }: Props) {
  const x = (v: number) => PAD + ((v - from) / (to - from)) * (width - 2 * PAD)
  const marks = [...readings.map((r) => r.mark), ...(typed === null ? [] : [typed])]
  const middle = (Math.min(...marks) + Math.max(...marks)) / 2
  return (
    <svg
      viewBox={`0 0 ${width} ${H}`}
      width="100%"
      height={H}
      preserveAspectRatio="none"
      role="img"
      aria-label={words}
      className="readings-line"
    >
      {readings.length > 1 && (
        <rect
          x={x(middle - tolerance / 2)}
          width={x(middle + tolerance / 2) - x(middle - tolerance / 2)}
          y="4"
          height={H - 8}
          fill="var(--bubble-wash)"
        />
      )}
      {marks.length > 1 && <line x1={x(Math.min(...marks))} x2={x(Math.max(...marks))} y1={H / 2} y2={H / 2} stroke="var(--soft-ink)" />}
      {agreed !== null && (
        <line
          x1={x(agreed)}
          x2={x(agreed)}
          y1="2"
          y2={H - 2}
          stroke="var(--pine)"
          strokeWidth="3"
          strokeDasharray={trying ? '3 2' : undefined}
        />
      )}
      {typed !== null && <TypedShape cx={x(typed)} cy={H / 2} />}
      {readings.map((r, i) => (
        <ReadingShape key={r.markerId} nth={i} cx={x(r.mark)} cy={H / 2} />
      ))}
    </svg>
  )
}

/** Each reading of a script has a colour and a shape of its own. */
export function ReadingShape({ nth, cx, cy }: { nth: number; cx: number; cy: number }) {
  const fill = COLOURS[nth % 4]
  switch (nth % 4) {
    case 0:
      return <circle cx={cx} cy={cy} r="5.5" fill={fill} />
    case 1:
      return <rect x={cx - 5} y={cy - 5} width="10" height="10" fill={fill} />
    case 2:
      return <path d={`M${cx} ${cy - 6}l6 10.5h-12z`} fill={fill} />
    default:
      return <path d={`M${cx} ${cy - 6.5}l6.5 6.5l-6.5 6.5l-6.5 -6.5z`} fill={fill} />
  }
}

/** A mark that somebody typed, beside readings that say otherwise: a cross, as it is none of them. */
export function TypedShape({ cx, cy }: { cx: number; cy: number }) {
  return <path d={`M${cx - 5} ${cy - 5}l10 10m0 -10l-10 10`} stroke="var(--ink)" strokeWidth="2" fill="none" />
}

export const readingColour = (nth: number): string => COLOURS[nth % 4]!
