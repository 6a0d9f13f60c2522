import { useMemo, useState } from 'react'
import { useLocation, useSearchParams } from 'react-router'
import { useDecidedCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { carriedIn } from '../../parts/carried'
import { CarriedHere } from '../../parts/CarriedHere'
import { WorkingOut } from '../../parts/WorkingOut'
import { WriteProblem, WritesProvider } from '../../saving/writes'
import { counted } from '../../parts/format'
import { useQuestions } from '../../parts/questions/useQuestions'
import { AskedPart } from './AskedPart'
import { LookNextPart } from './LookNext'
import type { QueueOrder } from './queue'
import type { QueueRow } from './queue-rows'
import { queueOfColumns } from './queue-columns'
import { QueuePart } from './QueuePart'
import { narrowed, NO_FILTER, type Filter } from './filter'
import { QueueTools } from './QueueTools'

/** Its parts, as they stand in the address. */
const PARTS = { 'the queue': null, 'where to look next': 'look-next', 'asked by students': 'asked' } as const
type Part = keyof typeof PARTS
const NAMES = Object.keys(PARTS) as Part[]

/** Scripts whose readings disagree, of all assessments or one; settled one by one or, within the tolerance, in bulk. */
export default function Reconcile() {
  const { id } = useDecidedCourse()
  return (
    <WritesProvider courseId={id}>
      <Parts />
    </WritesProvider>
  )
}

function Parts() {
  const { table } = useDecidedCourse()
  const [search, setSearch] = useSearchParams()
  const part = NAMES.find((p) => PARTS[p] === search.get('part')) ?? 'the queue'
  const setPart = (to: Part) => setSearch(PARTS[to] === null ? {} : { part: PARTS[to] }, { replace: true })
  const waiting = (useQuestions(table.head.id).data ?? []).filter((q) => q.answer === null).length
  const [carried, setCarried] = useState(carriedIn(useLocation()))
  const [order, setOrder] = useState<QueueOrder>('matters')
  const [filter, setFilter] = useState<Filter>(NO_FILTER)
  const columns = useFigures('reconcile', search.get('of'), order)
  const queue = useMemo(() => columns && queueOfColumns(columns), [columns])
  const sectionOf = useMemo(() => new Map(table.students.map((s) => [s.id, s.sectionId])), [table])
  const rows = useMemo(
    () => (queue ? narrowed(queue.rows, { ...filter, students: carried ? new Set(carried.studentIds) : null }, sectionOf) : NONE),
    [queue, filter, carried, sectionOf],
  )
  useKeys([
    {
      key: 'w',
      does: 'where to look next, or back to the queue',
      run: () => setPart(part === 'where to look next' ? 'the queue' : 'where to look next'),
    },
    {
      key: 'q',
      does: 'what students asked, or back to the queue',
      run: () => setPart(part === 'asked by students' ? 'the queue' : 'asked by students'),
    },
  ])
  if (!queue) return <WorkingOut />
  const parts = (
    <div className="words-choice" role="group" aria-label="Parts of Reconcile">
      {NAMES.map((p) => (
        <button key={p} aria-pressed={p === part} onClick={() => setPart(p)}>
          {p}
          {p === 'asked by students' && waiting > 0 && <b className="ochre"> {waiting}</b>}
        </button>
      ))}
    </div>
  )
  if (part === 'where to look next') return <LookNextPart parts={parts} />
  if (part === 'asked by students')
    return (
      <AskedPart
        parts={parts}
        inQueue={(scriptId) => queue.rows.some((r) => r.scriptId === scriptId)}
        onSettle={(q) => setSearch({ script: q.scriptId }, { replace: true })}
      />
    )
  if (queue.toSettle.length === 0)
    return (
      <div className="work alone">
        <main className="table-side">
          {parts}
          <div className="empty">
            No script has two readings yet. When a second reading is handed in, the scripts whose readings disagree queue up here, worst
            first.
          </div>
        </main>
      </div>
    )
  const { open, openOver } = queue
  const tried = queue.rows.filter((r) => r.trying).length
  return (
    <QueuePart
      queue={queue}
      rows={rows}
      first={search.get('script')}
      scope={JSON.stringify([search.get('of'), filter, carried?.studentIds.length])}
      head={
        <>
          <div className="stop-head">
            <h1>{open === 0 ? 'Everything is settled' : `${counted(open, 'script')} to settle`}</h1>
            <span className="soft small">
              {openOver} over tolerance, {open - openOver} within
              {tried > 0 && ` · ${tried} tried`}
            </span>
            <div className="at-end">{parts}</div>
          </div>
          <WriteProblem />
          <QueueTools
            queue={queue}
            order={order}
            onOrder={setOrder}
            filter={filter}
            onFilter={setFilter}
            onAssessment={(of) => setSearch(of === null ? {} : { of }, { replace: true })}
          />
          {carried && (
            <CarriedHere carried={carried} onAll={() => setCarried(undefined)}>
              {rows.length} of {counted(carried.studentIds.length, 'student')} were read by more than one
            </CarriedHere>
          )}
        </>
      }
    />
  )
}

const NONE: QueueRow[] = []
