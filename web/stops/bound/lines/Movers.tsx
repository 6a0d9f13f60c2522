import { memo } from 'react'
import { PeopleList } from '../../../parts/PeopleList'
import type { BoundFigures } from '../figures'

/** Who would have another grade than is adopted. */
export const Movers = memo(function Movers({ movers }: Pick<BoundFigures['impact'], 'movers'>) {
  if (movers.length === 0) return null
  return (
    <section>
      <h2>Who moves</h2>
      <PeopleList
        people={movers.map((m) => ({
          studentId: m.studentId,
          figures: (
            <span>
              {m.fromGrade} → <b>{m.toGrade}</b>
            </span>
          ),
        }))}
        empty=""
      />
    </section>
  )
})
