import type { Remote } from 'comlink'
import type { GradedCourse } from '#core/grades'
import type { ResultChange } from '#core/rescale'
import { resultOfColumns, type Change, type GradedColumns, type SentMark } from '#core/trial'
import type { CourseOutcomes, TablePlan } from '#contract'
import { messageOf, OfflineError, page, ProblemError } from '../api/client'
import type { AdoptedCourse, CourseBook, ForetoldCourse, Told, TriedCourse, WrittenFrom } from './book'
import { isAsForetold } from './foretold-marks'
import { ForetoldTrials } from './foretold'
import type { Withdrawal } from './withdrawal'
import type {
  Figure,
  FigureArgs,
  FigureName,
  JudgedFigure,
  JudgedFigureArgs,
  JudgedFigureName,
  OutcomeFigure,
  OutcomeFigureArgs,
  OutcomeFigureName,
  Years,
} from './figures'

export type Book = Pick<
  Remote<CourseBook>,
  'fetch' | 'foretellMarks' | 'tryOut' | 'foretell' | 'tryForetold' | 'ask' | 'askJudged' | 'askOutcomes' | 'askYears' | 'askWithdrawal'
>

export interface Adopted extends Pick<AdoptedCourse, 'graded' | 'items' | 'scripts' | 'toSettle'> {
  table: TablePlan
  result: GradedCourse
}

/** The open trial, as far as it is worked out. */
interface Tried {
  changes: readonly Change[]
  graded: GradedColumns
  result: GradedCourse
  change: ResultChange
}

interface Snapshot {
  /** Raised by whatever changes a figure. */
  revision: number
  tried: Tried | null
  /** Why the trial cannot be worked out. */
  problem: string | null
}

const NO_TRIAL: Snapshot = { revision: 0, tried: null, problem: null }

/** What the page holds of a course whose marks stand in a book beside it, in a worker. */
export class CourseStore {
  private snapshot = NO_TRIAL
  private readonly listeners = new Set<() => void>()
  /** The plan as it was told last; null before the book has the course. */
  private table: TablePlan | null = null
  /** What a write has told, and the next fetch begins with. */
  private told: { written: WrittenFrom; foretold: Adopted | null } | null = null
  /** The course with the marks that went off last, once it is worked out. */
  private coming: (ForetoldCourse & Pick<Adopted, 'result'>) | null = null
  private sent: readonly SentMark[] = []
  /** What is to be tried after what is being worked out; only the latest counts. */
  private next: readonly Change[] | null = null
  private trying = false
  private triedNow: readonly Change[] = []
  /** What was tried ahead of the screen that will ask for it. */
  private ahead: readonly Change[] | null = null
  private readonly foretold: ForetoldTrials<Omit<Tried, 'changes'>>

  constructor(private readonly book: Book) {
    this.foretold = new ForetoldTrials(async (id, changes) => {
      const { graded, change } = await book.foretell(id, changes)
      return { graded, change, result: resultOfColumns(graded) }
    })
  }

  /** Whether the book has the course. */
  get isLoaded(): boolean {
    return this.table !== null
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  getSnapshot = (): Snapshot => this.snapshot

  /** Works out what marks on their way would make of the course: where they are taken as they are, it shows at once. */
  expectMarks(marks: readonly SentMark[]): void {
    this.sent = marks
    this.coming = null
    if (this.isLoaded) void this.foretellMarks(marks)
  }

  /**
   * What was written since a version that is here: the next fetch need not ask for it.
   * @returns the course with it, where it is what was foretold
   */
  tell(written: WrittenFrom): Adopted | null {
    const foretold = this.coming && isAsForetold(this.coming, written) ? this.comeTrue(this.coming, written) : null
    this.told = { written, foretold }
    return foretold
  }

  /** The course as it is now. @throws ProblemError, OfflineError */
  async fetch(courseId: string): Promise<Adopted> {
    const { written = null, foretold = null } = this.told ?? {}
    this.told = null
    const fetched = await this.book.fetch(courseId, page.personId, written, foretold !== null)
    if ('asForetold' in fetched) {
      this.isAnother(fetched.asForetold.revision)
      return foretold!
    }
    if (!('course' in fetched)) throw refusedBy(fetched)
    const { version, hasMarks, plan, revision, ...course } = fetched.course
    this.table = { ...(plan ?? this.table!), version, hasMarks }
    this.isAnother(revision)
    return { ...course, table: this.table, result: resultOfColumns(course.graded) }
  }

  private async foretellMarks(marks: readonly SentMark[]): Promise<void> {
    const course = await this.book.foretellMarks(marks).catch(() => null)
    if (course && this.sent === marks) this.coming = { ...course, result: resultOfColumns(course.graded) }
  }

  private comeTrue({ on: _, cells: __, ...course }: NonNullable<CourseStore['coming']>, { version, hasMarks }: WrittenFrom): Adopted {
    this.table = { ...this.table!, version, hasMarks }
    return { ...course, table: this.table }
  }

  private isAnother(revision: number): void {
    if (revision <= this.snapshot.revision) return
    this.put({ revision })
    // What was foretold and tried was so on what was before.
    this.coming = null
    this.ahead = null
    this.foretold.forget()
    if (this.triedNow.length > 0) void this.tryOut(this.triedNow)
  }

  /** Works out trials that may be opened next: the one that is then shows at once. */
  expect = (trials: readonly (readonly Change[])[]): void => {
    // Without changes there is no trial, and nothing to work out.
    if (this.isLoaded) this.foretold.expect(trials.filter((changes) => changes.length > 0))
  }

  /** The same before a screen asks for it with the same changes: meanwhile the screen is drawn anew. */
  tryAhead = (changes: readonly Change[]): void => {
    if (!this.isLoaded) return
    void this.tryOut(changes)
    this.ahead = changes
  }

  /** Works out what changes would make of the course; while one is worked out, of those that come only the last is. */
  async tryOut(changes: readonly Change[]): Promise<void> {
    // Whatever else is tried meanwhile takes the place of what was tried ahead.
    const isTried = changes === this.ahead
    this.ahead = null
    if (isTried) return
    this.triedNow = changes
    this.next = changes
    const foretold = this.foretold.find(changes)
    if (foretold) this.put({ problem: null, tried: { changes, ...foretold.tried } })
    if (this.trying || !this.isLoaded) return
    this.trying = true
    while (this.next) {
      const now: readonly Change[] = this.next
      this.next = null
      try {
        await this.tryNow(now)
      } catch (e) {
        this.put({ problem: messageOf(e) })
      }
    }
    this.trying = false
  }

  ask<N extends FigureName>(name: N, args: FigureArgs<N>): Promise<Figure<N>> {
    return this.book.ask(name, args as never) as unknown as Promise<Figure<N>>
  }

  /** @throws ProblemError, OfflineError */
  async askJudged<N extends JudgedFigureName>(name: N, assessmentId: string, args: JudgedFigureArgs<N>): Promise<JudgedFigure<N>> {
    return told((await this.book.askJudged(name, assessmentId, args as never)) as Told<JudgedFigure<N>>)
  }

  /** @throws ProblemError, OfflineError */
  async askOutcomes<N extends OutcomeFigureName>(name: N, given: CourseOutcomes, args: OutcomeFigureArgs<N>): Promise<OutcomeFigure<N>> {
    return told((await this.book.askOutcomes(name, given, args as never)) as Told<OutcomeFigure<N>>)
  }

  /** @throws ProblemError, OfflineError */
  async askYears(courseIds: readonly string[], wanted: string | null, asMarked: boolean): Promise<Years> {
    return told(await this.book.askYears(courseIds, wanted, asMarked))
  }

  /** @throws ProblemError, OfflineError */
  async askWithdrawal(decisionId: string): Promise<Withdrawal> {
    return told(await this.book.askWithdrawal(decisionId))
  }

  private async tryNow(changes: readonly Change[]): Promise<void> {
    const foretold = this.foretold.find(changes)
    const revision = foretold && (await this.book.tryForetold(foretold.id))
    if (revision === null) return this.took(changes, await this.book.tryOut(changes))
    this.put({ revision })
  }

  private took(changes: readonly Change[], { revision, tried }: TriedCourse): void {
    // A later one that was foretold is there already.
    if (this.snapshot.tried?.changes === this.next) return this.put({ revision })
    this.put({ revision, problem: null, tried: tried && { changes, ...tried, result: resultOfColumns(tried.graded) } })
  }

  private put(changed: Partial<Snapshot>): void {
    this.snapshot = { ...this.snapshot, ...changed }
    for (const listener of this.listeners) listener()
  }
}

function told<T>(answer: Told<T>): T {
  if ('told' in answer) return answer.told
  throw refusedBy(answer)
}

function refusedBy(answer: Exclude<Told<never>, { told: never }>): Error {
  if ('offline' in answer) return new OfflineError()
  if (answer.refused.status === 401 && page.personId !== null) page.signedOut()
  return new ProblemError(answer.refused)
}
