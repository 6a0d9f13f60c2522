import { useEffect, useRef } from 'react'
import type { OwnWork } from '#contract'
import { numeral } from '../parts/format'
import { Asking } from './Asking'
import { HandIn } from './HandIn'
import { HowJudged } from './HowJudged'
import { OwnRemarks } from './OwnRemarks'
import { Reached } from './Reached'

/** One piece of work: what was handed in, what came of it, what was remarked, and asking about it. */
export function OneWork({ courseId, work }: { courseId: string; work: OwnWork['work'][number] }) {
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => {
    heading.current?.focus()
  }, [work.id])
  const { asking, handIn, remarks, mark, levels, outOf } = work
  return (
    <>
      <h1 ref={heading} tabIndex={-1} className="d-flex justify-content-between gap-3">
        {work.assessment}
        {mark !== null && (
          <span className="number">
            {numeral(mark)} <span className="soft small">of {numeral(outOf)}</span>
          </span>
        )}
      </h1>
      {handIn && <HandIn courseId={courseId} work={work} handIn={handIn} />}
      {levels && outOf !== null ? <Reached work={work} levels={levels} outOf={outOf} /> : remarks.length > 0 && <OwnRemarks work={work} />}
      <HowJudged work={work} />
      {asking && <Asking courseId={courseId} work={work} asking={asking} />}
    </>
  )
}
