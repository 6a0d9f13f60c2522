import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { meanOf } from '#core/compare'
import { actsOnMarks, markMethodOf, METHOD_KINDS, methodOf, type MethodKind, type Point } from '#core/rescale'
import { useKeys } from '../../settings/keys'
import { OfSelect } from '../../parts/OfSelect'
import { ChartOut } from '../../parts/take-out/ChartOut'
import { WorkingOut } from '../../parts/WorkingOut'
import { counted, fixed, numeral, today } from '../../parts/format'
import { CurveChart } from './CurveChart'
import { Ends } from './Ends'
import { How } from './How'
import { RescaleEffect } from './RescaleEffect'
import { Stack } from './Stack'
import { AT_NONE } from './subject'
import { useRescaling } from './useRescaling'
import { CloseUp } from '../../parts/CloseUp'
import styles from './rescale.module.css'
import { ChartTable } from '../../parts/ChartTable'
import { beforeAndAfter } from './before-and-after'

interface Props {
  nav: ReactNode
  /** An assessment, the course percent, or the hardest assessment where none is named. */
  subjectId: string | null
  onSubject: (subjectId: string) => void
  /** A way that is asked for by whoever sent one here. */
  wanted: string | null
}

/** The map from mark to mark: pull it, see what it does, adopt it, switch it off again. */
export function MarksPart({ nav, subjectId, onSubject, wanted }: Props) {
  const rescaling = useRescaling(subjectId)
  const { table, mayDecide, figures, chosen, drop } = rescaling
  const [point, setPoint] = useState(2)
  const [choosing, setChoosing] = useState<MethodKind | null>(METHOD_KINDS.find((k) => k === wanted) ?? null)
  const chart = useRef<HTMLDivElement>(null)
  const assessmentId = figures?.subject.assessmentId
  const { look } = rescaling
  useEffect(() => look(null), [assessmentId, look])
  const start = (kind: MethodKind) => {
    setPoint(kind === 'curve' ? 2 : 1)
    // Which criterion, is to be said before anything can be tried.
    setChoosing(kind === 'without' || kind === 'grant' ? kind : null)
    if (kind !== 'without' && kind !== 'grant') rescaling.start(kind)
  }
  useKeys([
    { key: 'Delete', does: 'drop what is being tried here', run: () => chosen && drop(chosen.id) },
    { key: 'n', does: 'a new adjustment beside those there are', run: () => look(AT_NONE) },
  ])
  const means = useMemo(() => ({ before: meanOf(figures?.before ?? []), after: meanOf(figures?.after ?? []) }), [figures])
  if (figures === undefined) return <WorkingOut />
  if (!figures || !table.hasMarks)
    return (
      <div className="work alone">
        <main className="table-side">
          <div className="stop-head">
            <h1>Rescale</h1>
            {nav}
          </div>
          <div className="empty">
            There are no marks to rescale yet. When they come in at Mark, an assessment that was too hard or too easy can be brought level
            here.
          </div>
        </main>
      </div>
    )
  const { subject, before } = figures
  const total = subject.assessmentId === null
  const pulling = chosen && actsOnMarks(chosen.method) ? (markMethodOf(chosen.method.kind).points ?? null) : null
  const points = chosen && pulling ? pulling.read(chosen.method) : null
  const pulled = (p: Point[]) => pulling!.put(chosen!.method, p)
  const under = `${counted(before.length, 'mark')}${chosen ? `, ${methodOf(chosen.method.kind).title}` : ''}, ${today()}`
  const says = `${counted(before.length, 'mark')}: mean ${fixed(means.before)} as they were, ${fixed(means.after)} rescaled, out of ${numeral(subject.outOf)}.`
  return (
    <div className={`work ${styles.work}`}>
      <main className="table-side">
        <div className="stop-head">
          <h1>{subject.title}</h1>
          <span className="soft small">
            mean {fixed(means.before)} of {numeral(subject.outOf)}, {counted(before.length, total ? 'final percent' : 'mark')}
          </span>
          {!total && (
            <div className="at-end">
              <OfSelect table={table} value={subject.assessmentId!} label="Assessment to rescale" onChange={onSubject} />
            </div>
          )}
        </div>
        <div ref={chart} className={styles.chart} data-drawn="" role="group" aria-label={says}>
          <CurveChart
            outOf={subject.outOf}
            unit={total ? 'percent' : 'marks'}
            before={before}
            after={figures.after}
            like={figures.like}
            line={figures.line}
            dots={figures.dots}
            points={points}
            chosen={point}
            onChoose={setPoint}
            disabled={!mayDecide}
            onPull={(p) => rescaling.show(pulled(p))}
            onLetGo={(p) => rescaling.setMethod(pulled(p))}
          />
        </div>
        <div className={styles.under}>
          <Ends figures={figures} />
          <ChartOut words={{ title: `${subject.title}, rescaled`, under }} within={chart} />
        </div>
        <ChartTable
          heads={[total ? 'percent' : 'mark', 'before', 'after']}
          rows={() => beforeAndAfter(before, figures.after, subject.outOf)}
        />
      </main>
      <CloseUp>
        <div className={styles.parts}>{nav}</div>
        {mayDecide && (
          <How
            rescaling={rescaling}
            figures={figures}
            choosing={choosing}
            onStart={start}
            onChosen={() => setChoosing(null)}
            point={point}
            onPoint={setPoint}
          />
        )}
        <Stack rescaling={rescaling} figures={figures} />
        <RescaleEffect figures={figures} trying={chosen !== null} />
      </CloseUp>
    </div>
  )
}
