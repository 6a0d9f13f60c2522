import { NumberField } from './NumberField'

/** In which line of a file its heading stands, where that could not be told. */
export const HeadingLine = ({ line, onLine }: { line: number; onLine: (line: number) => void }) => (
  <label>
    <span className="soft small">the heading stands in line</span>
    <NumberField
      label="The heading stands in line"
      value={line}
      min={1}
      max={60_000}
      className="short"
      onCommit={(to) => to !== null && onLine(Math.round(to))}
    />
  </label>
)
