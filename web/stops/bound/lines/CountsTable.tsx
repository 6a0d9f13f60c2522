import { Button } from 'react-bootstrap'
import { useDecidedCourse } from '../../../course/course'
import { NumberField } from '../../../parts/NumberField'
import { TitleField } from '../../../parts/TitleField'
import { withGrade, withGradeBelow, withoutGradeAt } from '../../../parts/edited-grades'
import { DASH, fixed } from '../../../parts/format'
import type { BoundFigures } from '../figures'
import type { Lines } from '../useLines'
import { GRAIN } from '../useLines'
import { SectionCounts } from './SectionCounts'
import { shareAbove } from './share-above'
import styles from '../bound.module.css'

interface Props {
  lines: Lines
  figures: BoundFigures
  chosen: number
  onChoose: (at: number) => void
  /** Grades are named, added and taken away. */
  naming: boolean
  /** How many would have each grade without any rescaling; nothing where none is rescaled. */
  plain?: readonly { grade: string; count: number }[] | undefined
}

/** How many have each grade, of everyone and by section, under limits that are typed in its head. */
export function CountsTable({ lines, figures, chosen, onChoose, naming, plain }: Props) {
  const { mayDecide } = useDecidedCourse()
  const { boundaries, typed, put, tryOut } = lines
  const { counts, before, sections } = figures
  const rows = typed ?? boundaries
  const graded = counts.reduce((n, c) => n + c.count, 0)
  // What is shown grade by grade adds up to it.
  const above = counts.slice(0, chosen + 1).reduce((n, c) => n + c.percent, 0)
  const was = (grade: string, count: number) => {
    const then = before.find((b) => b.grade === grade)?.count
    if (then === count) return null
    return <span className="soft small fw-normal d-block">{then === undefined ? 'new' : `was ${then}`}</span>
  }
  return (
    <table className={`grid ${styles.bounds}`}>
      <thead>
        <tr>
          <th />
          {rows.map((b, i) => (
            <th key={i} className={`number ${i === chosen ? 'fw-semibold' : ''}`}>
              {naming ? (
                <TitleField
                  label={`Grade ${i + 1}`}
                  value={b.grade}
                  disabled={!mayDecide}
                  onCommit={(grade) => tryOut(withGrade(rows, i, { grade }), `name ${grade}`)}
                />
              ) : (
                b.grade
              )}
              {naming && (
                <span className="d-block text-nowrap">
                  {i < rows.length - 1 && (
                    <Button
                      size="sm"
                      variant="link"
                      className="p-0 me-2"
                      aria-label={`Add a grade below ${b.grade}`}
                      onClick={() => tryOut(withGradeBelow(rows, i), 'add a grade')}
                    >
                      add
                    </Button>
                  )}
                  {rows.length > 2 && (
                    <Button
                      size="sm"
                      variant="link"
                      className="p-0"
                      aria-label={`Take ${b.grade} away`}
                      onClick={() => tryOut(withoutGradeAt(rows, i), `take ${b.grade} away`)}
                    >
                      take away
                    </Button>
                  )}
                </span>
              )}
            </th>
          ))}
          <th className="number">mean</th>
          <th className="number">{boundaries[chosen]?.grade} and above</th>
        </tr>
        <tr>
          <th>begins at</th>
          {rows.map((b, i) => (
            <td key={i} className="number" onFocus={() => i < rows.length - 1 && onChoose(i)}>
              <NumberField
                label={`${b.grade} begins at`}
                value={b.from}
                refused={!!typed && typed[i]!.from !== boundaries[i]?.from}
                disabled={!mayDecide || i === rows.length - 1}
                step={GRAIN}
                onCommit={(v) => v !== null && put(i, v)}
              />
            </td>
          ))}
          <td />
          <td />
        </tr>
        <tr className="fw-semibold">
          <th>everyone</th>
          {counts.map((c) => (
            <td key={c.grade} className="number">
              {c.count} · {c.percent}%{was(c.grade, c.count)}
            </td>
          ))}
          <td className="number">{fixed(figures.mean)}</td>
          <td className="number">{graded > 0 ? `${above}%` : DASH}</td>
        </tr>
        {plain && (
          <tr className="soft">
            <th>before it was rescaled</th>
            {counts.map((c) => (
              <td key={c.grade} className="number">
                {plain.find((p) => p.grade === c.grade)?.count ?? 0}
              </td>
            ))}
            <td />
            <td />
          </tr>
        )}
      </thead>
      <tbody>
        <SectionCounts sections={sections} chosen={chosen} everyone={shareAbove(counts, graded, chosen)} />
      </tbody>
    </table>
  )
}
