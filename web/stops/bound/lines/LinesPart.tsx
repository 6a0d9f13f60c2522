import { useEffect, useEffectEvent, useMemo, useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigate } from 'react-router'
import { isSameSet } from '#core/grades'
import { movesInWords, movesOf } from '#core/rescale'
import { useCourse, useFigures, useFiguresOnce } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed, numeral } from '../../../parts/format'
import { useGivenErrors } from '../../../parts/useGivenErrors'
import { GRAIN, stepped, useLines } from '../useLines'
import { BoundChart } from './BoundChart'
import { CountsTable } from './CountsTable'
import { Movers } from './Movers'
import { AT_ONCE, NearLine } from './NearLine'
import { NotYetASet } from './NotYetASet'
import { CloseUp } from '../../../parts/CloseUp'

/** The boundaries on the final distribution: pulled, stepped or typed, with what each move does. */
export function LinesPart({ nav }: { nav: ReactNode }) {
  const { id, table, current, mayDecide } = useCourse()
  const navigate = useNavigate()
  const [zone, setZone] = useState(1)
  const [naming, setNaming] = useState(false)
  const figures = useFigures('bound', zone)
  const [given] = useGivenErrors()
  const [chosenAt, setChosen] = useState(1)
  const [shown, setShown] = useState(AT_ONCE)
  const lines = useLines()
  const { boundaries, put, pull } = lines
  // The next step of a line waits for nothing but who moves: how sure it is comes after that.
  const settled = figures !== undefined && isSameSet(figures.boundaries, boundaries)
  const sure = useFiguresOnce(settled, 'sure', given)
  const plain = useFiguresOnce(settled, 'plain')
  const chosen = Math.min(chosenAt, boundaries.length - 2)
  const boundary = boundaries[chosen]
  const step = (by: number) => boundary && put(chosen, stepped(boundary.from, by))
  useKeys([
    { key: 'ArrowLeft', does: 'chosen boundary half a percent down', run: () => step(-GRAIN) },
    { key: 'ArrowRight', does: 'chosen boundary half a percent up', run: () => step(GRAIN) },
    { key: '[', does: 'the boundary above', run: () => setChosen(Math.max(0, chosen - 1)) },
    { key: ']', does: 'the boundary below', run: () => setChosen(Math.min(boundaries.length - 2, chosen + 1)) },
  ])
  const mayStep = useEffectEvent(() => boundary && lines.expectStep(chosen))
  useEffect(() => {
    if (settled) mayStep()
  }, [settled, figures, chosen])
  const grade = boundary?.grade
  // Of the line as the figures have it: who is near a line that was just moved comes with them.
  const near = useMemo(() => figures?.near.filter((n) => n.grade === grade) ?? [], [figures, grade])
  const nearest = useMemo(() => near.slice(0, shown).map((n) => n.studentId), [near, shown])
  const more = useFiguresOnce(settled, 'oneMoreMark', nearest)
  if (!figures) return <WorkingOut />
  const { impact } = figures
  const nearTo = figures.boundaries.find((b) => b.grade === grade)
  const wasFrom = table.boundaries.find((b) => b.grade === boundary?.grade)?.from
  const line = sure?.lines.find((l) => l.grade === boundary?.grade && l.from === boundary.from)
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Where do the grades begin?</h1>
          {nav}
        </div>
        <BoundChart
          result={current}
          plain={plain?.percents}
          boundaries={boundaries}
          adopted={table.boundaries}
          zone={sure?.typical ?? zone}
          chosen={chosen}
          disabled={!mayDecide}
          onChoose={setChosen}
          onPull={pull}
          onLetGo={put}
          onPick={(s) => void navigate(`/courses/${id}/students/${s}`)}
        />
        <p className="soft small d-flex justify-content-between mb-1">
          <span>
            {sure?.typical != null
              ? `Bands and hollow dots: within ±${fixed(sure.typical)}, the error of a course percent as readings tell it.`
              : `Bands and hollow dots: within ${numeral(zone)} percent of a line.`}{' '}
            {plain && 'Dashed: before it was rescaled. '}Pull a line, step it with ← →, or type.
          </span>
          {mayDecide && (
            <button className="quiet-button" aria-pressed={naming} onClick={() => setNaming((n) => !n)}>
              {naming ? 'Done with the grades' : 'Change the grades'}
            </button>
          )}
        </p>
        <NotYetASet lines={lines} />
        <CountsTable lines={lines} figures={figures} chosen={chosen} onChoose={setChosen} naming={naming} plain={plain?.counts} />
      </main>
      <CloseUp>
        {boundary && (
          <>
            <section>
              <h2>
                {boundary.grade} begins at {fixed(boundary.from)}
                {wasFrom !== undefined && wasFrom !== boundary.from && `, was ${fixed(wasFrom)}`}
              </h2>
              <p aria-live="polite" className="mb-2">
                {impact.movers.length > 0
                  ? `Against what is adopted ${counted(impact.movers.length, 'grade')} ${impact.movers.length === 1 ? 'changes' : 'change'}: ${movesInWords(movesOf(impact))}.`
                  : isSameSet(boundaries, table.boundaries)
                    ? 'Lines as adopted.'
                    : 'Against what is adopted no grade moves.'}{' '}
                {line && sure!.typical !== null && (
                  <>
                    {counted(line.within, 'student')} within ±{fixed(sure!.typical)} of this line; about <b>{fixed(line.wrongSide)}</b> of
                    all may have the wrong grade.
                  </>
                )}
              </p>
              {mayDecide && (
                <div className="buttons">
                  <Button size="sm" variant="outline-primary" onClick={() => step(-GRAIN)}>
                    <kbd>←</kbd> {fixed(boundary.from - GRAIN)}
                  </Button>
                  <Button size="sm" variant="outline-primary" onClick={() => step(GRAIN)}>
                    {fixed(boundary.from + GRAIN)} <kbd>→</kbd>
                  </Button>
                  {wasFrom !== undefined && wasFrom !== boundary.from && (
                    <Button size="sm" variant="link" onClick={() => put(chosen, wasFrom)}>
                      Back to {fixed(wasFrom)}
                    </Button>
                  )}
                </div>
              )}
            </section>
            {nearTo && (
              <NearLine
                boundary={nearTo}
                near={near}
                zone={zone}
                onZone={setZone}
                sure={sure}
                shown={shown}
                onShow={setShown}
                more={more}
              />
            )}
            <Movers movers={impact.movers} />
          </>
        )}
      </CloseUp>
    </div>
  )
}
