import { useRef, useState } from 'react'
import type { Point } from '#core/rescale'

interface Props {
  outOf: number
  onPoints: (points: Point[]) => void
}

/** Brings the map of an adjustment in from a file, to do the same as last year. */
export function MapIn({ outOf, onPoints }: Props) {
  const field = useRef<HTMLInputElement>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const read = async (file: File) => {
    const { mapOfFile } = await import('./map-of-file')
    const found = mapOfFile(await file.text(), outOf)
    setProblem(found.problem)
    if (found.points) onPoints(found.points)
  }
  return (
    <span>
      <button className="quiet-button" onClick={() => field.current?.click()}>
        Bring a map in
      </button>
      <input
        ref={field}
        type="file"
        accept=".csv,text/csv"
        className="visually-hidden"
        tabIndex={-1}
        aria-label="Map of marks, as CSV"
        onChange={(e) => {
          const [file] = e.target.files ?? []
          e.target.value = ''
          if (file) void read(file)
        }}
      />
      {problem && (
        <span className="small brick d-block" role="alert">
          {problem}
        </span>
      )}
    </span>
  )
}
