import { orNull } from '#core/grades'
import { scriptIdOf } from '#core/trial'
import type { QueueRow, ReadingQueue } from './queue-rows'

/** The queue as it travels to the page: of tens of thousands of rows, objects take longer to be sent than to be worked out. */
export interface QueueColumns extends Omit<ReadingQueue, 'rows'> {
  /** What the columns name by their places. */
  studentIds: readonly string[]
  assessmentIds: readonly string[]
  markerIds: readonly string[]
  grades: readonly string[]
  /** Cell → the id of its script, where it is not the usual one. */
  otherIds: ReadonlyMap<number, string>
  /** Places in the columns below, in the order of the queue. */
  order: Int32Array
  cell: Int32Array
  /** The readings of a place: `marker[from[place]] … marker[from[place + 1] − 1]`. */
  from: Int32Array
  marker: Int32Array
  mark: Float64Array
  spread: Float64Array
  /** NaN is null, here and in the next two. */
  typed: Float64Array
  agreed: Float64Array
  near: Float64Array
  /** 1 where it is so. */
  over: Uint8Array
  ruled: Uint8Array
  trying: Uint8Array
  reopened: Uint8Array
  /** Two a place, by their places in `grades`: NO_GRADE, or NO_STAKE where there is none. */
  stake: Int16Array
}

export const NO_GRADE = -1
export const NO_STAKE = -2

/** The queue in rows, the first first. */
export function queueOfColumns(columns: QueueColumns): ReadingQueue {
  const { toSettle, assessmentId, open, openOver, pairs } = columns
  return { toSettle, assessmentId, open, openOver, pairs, rows: Array.from(columns.order, (place) => new RowAt(columns, place)) }
}

/** A row that is looked up when somebody looks at it: of tens of thousands few are. */
class RowAt implements QueueRow {
  private known: QueueRow['readings'] | null = null

  constructor(
    private readonly columns: QueueColumns,
    private readonly place: number,
  ) {}

  private get cell() {
    return this.columns.cell[this.place]!
  }
  get studentId() {
    return this.columns.studentIds[Math.floor(this.cell / this.columns.assessmentIds.length)]!
  }
  get assessmentId() {
    return this.columns.assessmentIds[this.cell % this.columns.assessmentIds.length]!
  }
  get scriptId() {
    return this.columns.otherIds.get(this.cell) ?? scriptIdOf(this.assessmentId, this.studentId)
  }
  private get marks() {
    return this.columns.mark.subarray(this.columns.from[this.place], this.columns.from[this.place + 1])
  }
  get readings() {
    const { from, marker, markerIds } = this.columns
    return (this.known ??= Array.from(this.marks, (mark, i) => ({ markerId: markerIds[marker[from[this.place]! + i]!]!, mark })))
  }
  get read() {
    return this.columns.from[this.place + 1]! - this.columns.from[this.place]!
  }
  get lowest() {
    return Math.min(this.typed ?? Infinity, ...this.marks)
  }
  get spread() {
    return this.columns.spread[this.place]!
  }
  get typed() {
    return orNull(this.columns.typed[this.place]!)
  }
  get agreed() {
    return orNull(this.columns.agreed[this.place]!)
  }
  get near() {
    return orNull(this.columns.near[this.place]!)
  }
  get over() {
    return this.columns.over[this.place] === 1
  }
  get ruled() {
    return this.columns.ruled[this.place] === 1
  }
  get trying() {
    return this.columns.trying[this.place] === 1
  }
  get reopened() {
    return this.columns.reopened[this.place] === 1
  }
  get stake(): QueueRow['stake'] {
    const { grades, stake } = this.columns
    const [lowest, highest] = stake.subarray(2 * this.place, 2 * this.place + 2)
    return lowest === NO_STAKE ? null : [grades[lowest!] ?? null, grades[highest!] ?? null]
  }
}
