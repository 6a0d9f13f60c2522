import { OfflineError, ProblemError } from '../api/client'
import { afterDrawing, doWhatWaits } from './after-drawing'

const RETRY_MS = 3000
/** Answers that say "not now": signed out, too many, a server that is being started, or one whose disk is full. */
const NOT_NOW = new Set([401, 429, 502, 503, 504, 507])

/** Whether what was sent may get through later, as it is. */
export const mayArriveLater = (e: unknown): boolean =>
  e instanceof OfflineError || (e instanceof ProblemError && NOT_NOW.has(e.problem.status))

/** What is done about a clash: sent again on top of what is there, or held until a person has chosen. */
export type Conflict<T, There> = { again: T } | { there: There }

/**
 * What one kind of typed input brings to the outbox: how it is named, merged, sent and kept.
 * `T` is what waits under a name, `Answer` what the server says to a batch, `There` what stands on the server instead.
 */
export interface Errand<T, Answer, There = never> {
  /** What comes under the name of something that waits takes its place. */
  nameOf: (entry: T) => string
  send: (batch: readonly T[]) => Promise<Answer>
  /** Sends while the page is being closed, where that is worth trying: there is no time for a turn or an answer. */
  leave?: (waiting: readonly T[]) => void
  /** What takes the place of something that waits; as it came where this is left out. */
  merge?: (next: T, waiting: T) => T
  /** Something typed again while the first was on its way, to go on top of what that became. */
  rebase?: (next: T, sent: T, answer: Answer) => T
  /** Told before anything else is sent, so that the next goes on top of it. */
  answered?: (answer: Answer, batch: readonly T[]) => void | Promise<void>
  /** Where somebody else was faster. Null where the error says nothing of that. */
  conflict?: (error: unknown, entry: T) => Conflict<T, There> | null
  /** Entered where no answer came, and the server may have it or not. */
  unanswered?: (waiting: T, sent: T) => T
  /** It was refused and waits no longer; without this it stays until it is typed again or the screen is left. */
  refused?: (error: unknown, batch: readonly T[]) => void
  /** Waits no longer, since a person took what is there, or it was called off. */
  dropped?: (entries: readonly T[]) => void
  /** Keeps over a reload all that waits; nothing waits where the list is empty. @returns whether there was room for all */
  keep?: (waiting: readonly T[]) => boolean
  /** Whether it may be sent now: it is still the page of whoever typed it. */
  may: () => boolean
  /** How long one may go on typing before it is sent; ms. */
  after: number
  /** How many go at once. */
  atOnce?: number
}

/** What the head says of saving. */
export interface SavedLedger {
  saving: <R>(work: Promise<R>) => Promise<R>
  waits: () => () => void
}

export interface OutboxState<T, There> {
  waiting: ReadonlyMap<string, T>
  /** Why the last try did not get through. */
  problem: unknown
  /** What stands on the server instead; nothing is sent until one has chosen. */
  clash: There | null
}

/**
 * What is typed and not saved yet: it goes off one batch after the other, is tried again when the server is back, is kept over a
 * reload, and is held where somebody else was faster. One stands behind every field that saves as one goes.
 */
export class Outbox<T, Answer, There = never> {
  #errand: Errand<T, Answer, There>
  #saved: SavedLedger
  readonly #waiting = new Map<string, T>()
  /** What was refused and stays as it was typed: it is not sent again of itself. */
  #stuck = new Set<string>()
  readonly #listeners = new Set<() => void>()
  #state: OutboxState<T, There> = { waiting: new Map(), problem: null, clash: null }
  #underWay: Promise<boolean> | null = null
  #sent: readonly T[] = []
  #timer: ReturnType<typeof setTimeout> | undefined
  /** Says that what was typed is no longer waiting. */
  #settled: (() => void) | undefined
  #keptAll = true
  #ended = false
  /** The entry that somebody else was faster than; null where that is said of all that waits. */
  #clashOn: string | null = null

  constructor(errand: Errand<T, Answer, There>, saved: SavedLedger) {
    this.#errand = errand
    this.#saved = saved
  }
  /** The latest of what its screen brings. */
  serve(errand: Errand<T, Answer, There>): void {
    this.#errand = errand
  }
  /** Another head says from now on whether all is saved. */
  tell(saved: SavedLedger): void {
    if (saved.waits === this.#saved.waits) return
    this.#tellSettled()
    this.#saved = saved
    if (this.#waiting.size > 0) this.#settled = saved.waits()
  }

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }
  snapshot = (): OutboxState<T, There> => this.#state

  /** Whether closing the page now would lose something. */
  get wouldLose(): boolean {
    doWhatWaits()
    return !this.#ended && this.#waiting.size > 0 && !this.#keptAll
  }

  /** Takes what was typed, to be sent in a moment. */
  put(entries: readonly T[]): void {
    // Asked for first, so that what is sent at once is on its way before anything is drawn.
    this.#in(this.#errand.after)
    this.#take(entries)
  }
  /** Takes something and sends it at once. @returns whether it got through */
  async putNow(entry: T): Promise<boolean> {
    this.#take([entry])
    return this.flush()
  }
  /** What an earlier page left, or what somebody else was faster than. */
  restore(entries: readonly T[], clash: There | null = null): void {
    for (const e of entries) if (!this.#waiting.has(this.#errand.nameOf(e))) this.#waiting.set(this.#errand.nameOf(e), e)
    if (clash !== null) this.#show({ clash })
    else if (this.#waiting.size > 0) {
      this.#changed()
      this.#settled ??= this.#saved.waits()
      this.#in(0)
    }
  }

  /** Sends what waits, after what is on its way. @returns whether all of it got through */
  async flush(): Promise<boolean> {
    while (this.#underWay) await this.#underWay
    if (this.#waiting.size === 0) return true
    if (!this.#maySend()) return false
    clearTimeout(this.#timer)
    this.#stuck.clear()
    return this.#run()
  }

  /** Sends until nothing waits, as long as each batch gets through; what does not is left where it is kept. */
  async drain(): Promise<void> {
    await this.#underWay
    for (let before = Infinity; this.#waiting.size > 0 && this.#waiting.size < before;) {
      before = this.#waiting.size
      await this.flush()
    }
  }

  /** The page is being closed. */
  leave(): void {
    const waiting = [...this.#waiting.values()].filter((e) => !this.#sent.includes(e))
    if (waiting.length > 0 && this.#maySend()) this.#errand.leave?.(waiting)
  }

  /** Sends nothing any more: the page is gone, or somebody else's by now. */
  end(): void {
    clearTimeout(this.#timer)
    this.#ended = true
  }

  /** Drops all that waits, and waits for what is on its way. */
  async cancel(): Promise<void> {
    clearTimeout(this.#timer)
    this.#drop([...this.#waiting.keys()])
    this.#changed()
    await this.#underWay
    this.#tellSettled()
  }

  /** Holds what waits until a person has chosen between it and what is there. */
  hold(there: There): void {
    clearTimeout(this.#timer)
    this.#clashOn = null
    this.#show({ clash: there })
  }

  /**
   * Ends a clash. Mine goes over what is there; theirs drops what waits.
   * @param onTop what was typed, to go on top of what is there
   */
  settle(whose: 'mine' | 'theirs', onTop: (waiting: T, there: There) => T): void {
    const { clash } = this.#state
    if (clash === null) return
    const names = this.#clashOn === null ? [...this.#waiting.keys()] : [this.#clashOn]
    this.#clashOn = null
    if (whose === 'theirs') this.#drop(names)
    else for (const name of names) if (this.#waiting.has(name)) this.#waiting.set(name, onTop(this.#waiting.get(name)!, clash))
    this.#changed({ clash: null, problem: null })
    this.#settled ??= this.#saved.waits()
    if (this.#waiting.size > 0) this.#in(0)
    else this.#tellSettled()
  }

  #drop(names: readonly string[]): void {
    const gone = names.flatMap((name) => this.#waiting.get(name) ?? [])
    for (const name of names) this.#waiting.delete(name)
    if (gone.length > 0) this.#errand.dropped?.(gone)
  }

  #maySend(): boolean {
    return !this.#ended && this.#state.clash === null && this.#errand.may()
  }
  #take(entries: readonly T[]): void {
    const { nameOf, merge } = this.#errand
    for (const e of entries) {
      const waiting = this.#waiting.get(nameOf(e))
      this.#waiting.set(nameOf(e), waiting && merge ? merge(e, waiting) : e)
      this.#stuck.delete(nameOf(e))
    }
    this.#settled ??= this.#saved.waits()
    this.#changed()
  }
  #in(ms: number): void {
    clearTimeout(this.#timer)
    if (ms === 0) queueMicrotask(() => void this.#next())
    else this.#timer = setTimeout(() => void this.#next(), ms)
  }
  async #next(): Promise<void> {
    if (this.#underWay || !this.#maySend()) return
    if (this.#batch().length > 0) await this.#run()
  }
  #batch(): T[] {
    const sendable = [...this.#waiting].filter(([name]) => !this.#stuck.has(name))
    return sendable.slice(0, this.#errand.atOnce ?? Infinity).map(([, e]) => e)
  }
  #run(): Promise<boolean> {
    this.#underWay = this.#sendOnce().then(({ arrived, wait }) => {
      this.#underWay = null
      this.#sent = []
      const more = this.#batch().length > 0
      if (wait !== null && more) this.#in(wait)
      if (!more || !arrived) this.#tellSettled()
      return arrived && !more
    })
    return this.#underWay
  }

  /** @returns whether it got through, and in how long the next try is due; null where a person has to act first */
  async #sendOnce(): Promise<{ arrived: boolean; wait: number | null }> {
    const errand = this.#errand
    const batch = (this.#sent = this.#batch())
    try {
      const answer = await this.#saved.saving(errand.send(batch))
      await errand.answered?.(answer, batch)
      this.#each(batch, (now, sent) => (now === sent ? null : (errand.rebase?.(now, sent, answer) ?? now)))
      this.#changed({ problem: null })
      return { arrived: true, wait: 0 }
    } catch (e) {
      if (mayArriveLater(e)) {
        this.#each(batch, (now, sent) => errand.unanswered?.(now, sent) ?? now)
        this.#changed({ problem: e })
        return { arrived: false, wait: RETRY_MS }
      }
      const conflict = batch.length === 1 ? errand.conflict?.(e, batch[0]!) : null
      if (conflict && 'again' in conflict) {
        this.#each(batch, (now, sent) => (now === sent || !errand.merge ? conflict.again : errand.merge(now, conflict.again)))
        this.#changed()
        return this.#sendOnce()
      }
      if (conflict) {
        this.#clashOn = errand.nameOf(batch[0]!)
        this.#changed({ problem: e, clash: conflict.there })
        return { arrived: false, wait: null }
      }
      if (errand.refused) {
        this.#each(batch, (now, sent) => (now === sent ? null : now))
        errand.refused(e, batch)
      } else for (const sent of batch) if (this.#waiting.get(errand.nameOf(sent)) === sent) this.#stuck.add(errand.nameOf(sent))
      this.#changed({ problem: e })
      return { arrived: false, wait: 0 }
    }
  }

  /** Puts something in the place of what waits under each name of a batch; null takes it out. */
  #each(batch: readonly T[], as: (waiting: T, sent: T) => T | null): void {
    for (const sent of batch) {
      const name = this.#errand.nameOf(sent)
      const now = this.#waiting.get(name)
      if (now === undefined) continue
      const next = as(now, sent)
      if (next === null) this.#waiting.delete(name)
      else this.#waiting.set(name, next)
    }
  }
  #tellSettled(): void {
    this.#settled?.()
    this.#settled = undefined
  }
  #changed(more: Partial<OutboxState<T, There>> = {}): void {
    afterDrawing(this.#keep)
    this.#show(more)
  }
  readonly #keep = (): void => {
    this.#keptAll = this.#errand.keep?.([...this.#waiting.values()]) ?? false
  }
  #show(more: Partial<OutboxState<T, There>>): void {
    this.#state = { ...this.#state, ...more, waiting: new Map(this.#waiting) }
    for (const listener of this.#listeners) listener()
  }
}
