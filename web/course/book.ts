import { checkBoundaries } from '#core/grades'
import type { ResultChange } from '#core/rescale'
import {
  applyChanges,
  ifSaved,
  NO_SCRIPT,
  openItems,
  planFacts,
  withPlan,
  workingsSince,
  workingsOf,
  type Change,
  type GradedColumns,
  type OpenItem,
  type SentMark,
  type Workings,
  type WrittenScript,
} from '#core/trial'
import {
  routes,
  unpackJudged,
  unpackTable,
  type CourseOutcomes,
  type JudgedReadings,
  type Problem,
  type TablePlan,
  type TableSince,
} from '#contract'
import { call, OfflineError, page, ProblemError } from '../api/client'
import {
  FIGURES,
  JUDGED_FIGURES,
  OUTCOME_FIGURES,
  YEARS,
  type Figure,
  type FigureArgs,
  type FigureName,
  type JudgedFigure,
  type JudgedFigureArgs,
  type JudgedFigureName,
  type OutcomeFigure,
  type OutcomeFigureArgs,
  type OutcomeFigureName,
  type Years,
} from './figures'
import { isAsForetold } from './foretold-marks'
import { PIECES } from './pieces'
import { changeBetween, Outcome, type CourseState } from './state'
import type { Withdrawal } from './withdrawal'

/** A course as it is decided, as far as the page holds it: its marks stay where they are reckoned with. */
export interface AdoptedCourse {
  /** Raised by whatever changes a figure. */
  revision: number
  version: number
  hasMarks: boolean
  /** Null where it is as it was told before: most of what is written are marks, and it is large. */
  plan: TablePlan | null
  graded: GradedColumns
  /** What is open at the stops. */
  items: OpenItem[]
  /** How many scripts there are, and of how many more than one reading is wanted. */
  scripts: number
  toSettle: number
}

/** Others are answered after that while a figure is worked out in pieces. */
const LONGEST_MS = 30

/** Cells as they stand after writes, and the plan where it is another one. */
type Written = NonNullable<TableSince>

/** What a write has told of what was written since a version that the page had. */
export interface WrittenFrom extends Written {
  from: number
}

/** What a trial makes of it; nothing where none is open. */
export interface TriedCourse {
  revision: number
  tried: { graded: GradedColumns; change: ResultChange } | null
}

/** A course with changes in it, worked out. */
interface TriedWorkings {
  changes: readonly Change[]
  tried: Workings
  outcome: Outcome
}

/** So many trials that may come next are kept: a step either way, and those of the step before. */
const FORETOLD = 4

/** What a course comes to with marks in it that are on their way to the server, and what it would then say of their cells. */
export interface ForetoldCourse extends Pick<AdoptedCourse, 'graded' | 'items' | 'scripts' | 'toSettle'> {
  /** The version that they are put on top of. */
  on: number
  cells: Required<WrittenScript>[]
}

/** Errors do not pass from a worker as what they are, so what was refused is told. */
export type Told<T> = { told: T } | { refused: Problem } | { offline: true }
/** Where it came to what the page was told before, only that is said. */
export type Fetched = { course: AdoptedCourse } | { asForetold: { revision: number } } | { refused: Problem } | { offline: true }

async function telling<T>(work: () => Promise<T>): Promise<Told<T>> {
  try {
    return { told: await work() }
  } catch (e) {
    return notTold(e)
  }
}

function notTold(e: unknown): { refused: Problem } | { offline: true } {
  if (e instanceof ProblemError) return { refused: e.problem }
  if (e instanceof OfflineError) return { offline: true }
  throw e
}

/**
 * A course with all its marks, graded: fetched once, then patched by what was written since. It is made to stand beside the page, in a
 * worker, and knows nothing of either.
 */
export class CourseBook {
  private base: { table: TablePlan; workings: Workings; outcome: Outcome; told: AdoptedCourse } | null = null
  private trial: TriedWorkings | null = null
  /** Trials that may be opened next, by the number that they are known by to whoever asked. */
  private foretold = new Map<number, TriedWorkings>()
  /** With the marks that went off last. */
  private coming: { workings: Workings; outcome: Outcome; foretold: ForetoldCourse } | null = null
  private revision = 0
  private turn: Promise<unknown> = Promise.resolve()
  /** Readings criterion by criterion, with the columns of readings that they were fetched beside. */
  private judged = new Map<string, { beside: Workings['readings']; readings: Promise<JudgedReadings> }>()
  /** Other courses, as they were when they were first asked for: years that are over. */
  private others = new Map<string, Promise<CourseState>>()

  /**
   * The course as it is now: all of it at first, after that what was written since.
   * @param told what was written since a version that was fetched before, where a write has told it already
   * @param isShown whether that was foretold, and the page shows it
   */
  fetch(courseId: string, personId: string | null, told: WrittenFrom | null = null, isShown = false): Promise<Fetched> {
    const turn = this.turn.then(() => this.fetchNow(courseId, personId, told, isShown))
    this.turn = turn.catch(() => undefined)
    return turn
  }

  /**
   * What marks on their way would make of the course, should the server take them as they are; nothing is taken over by this.
   * @returns null where they are not all that would decide
   */
  foretellMarks(marks: readonly SentMark[]): ForetoldCourse | null {
    this.coming = null
    if (!this.base) return null
    const { table, workings: before, outcome: now } = this.base
    const cells = ifSaved(before, marks)
    const written = cells && workingsSince(before, { cells, plan: null })
    if (!written) return null
    const { workings } = written
    const outcome = now.after(workings, written.cells)
    const foretold = { on: table.version, cells, graded: outcome.graded, ...whatIsOpen(table, workings, outcome) }
    this.coming = { workings, outcome, foretold }
    return foretold
  }

  /**
   * What changes would make of it; without any the trial is over.
   * @throws where they cannot be in force; the trial then stays what it was
   */
  tryOut(changes: readonly Change[]): TriedCourse {
    this.trial = null
    this.revision++
    if (changes.length === 0) return { revision: this.revision, tried: null }
    this.trial = this.workOut(changes)
    return { revision: this.revision, tried: this.toldOf(this.trial) }
  }

  /**
   * What changes would make of it, should they be tried next; nothing is tried by this.
   * @throws where they cannot be in force
   */
  foretell(id: number, changes: readonly Change[]): NonNullable<TriedCourse['tried']> {
    const trial = this.workOut(changes)
    this.foretold.set(id, trial)
    for (const old of [...this.foretold.keys()].slice(0, -FORETOLD)) this.foretold.delete(old)
    return this.toldOf(trial)
  }

  /** Tries what was foretold. @returns the revision, or null where it is not known any more */
  tryForetold(id: number): number | null {
    const trial = this.foretold.get(id)
    if (!trial) return null
    this.trial = trial
    return ++this.revision
  }

  private workOut(changes: readonly Change[]): TriedWorkings {
    const { workings, outcome } = this.loaded()
    const tried = applyChanges(workings, changes)
    return { changes, tried, outcome: outcome.with(tried) }
  }

  private toldOf({ outcome }: TriedWorkings): NonNullable<TriedCourse['tried']> {
    return { graded: outcome.graded, change: changeBetween(this.loaded().outcome, outcome) }
  }

  /** A figure of the course as it stands when it is asked for. */
  async ask<N extends FigureName>(name: N, args: FigureArgs<N>): Promise<Figure<N>> {
    const state = this.state()
    let free = performance.now() + LONGEST_MS
    for (const _ of PIECES[name]?.(state, ...args) ?? []) {
      if (performance.now() < free) continue
      await new Promise((go) => setTimeout(go))
      free = performance.now() + LONGEST_MS
    }
    const figure = FIGURES[name] as unknown as (state: CourseState, ...args: FigureArgs<N>) => Figure<N>
    return figure(state, ...args)
  }

  /** The same for figures that need an assessment’s readings criterion by criterion, which are fetched again once any reading has changed. */
  async askJudged<N extends JudgedFigureName>(name: N, assessmentId: string, args: JudgedFigureArgs<N>): Promise<Told<JudgedFigure<N>>> {
    return telling(async () => {
      const judged = await this.judgedOf(assessmentId)
      const figure = JUDGED_FIGURES[name] as unknown as (
        state: CourseState,
        judged: JudgedReadings,
        ...args: JudgedFigureArgs<N>
      ) => JudgedFigure<N>
      return figure(this.state(), judged, ...args)
    })
  }

  /** The same for figures of outcomes, which need the readings of every assessment that gives evidence of one. */
  async askOutcomes<N extends OutcomeFigureName>(
    name: N,
    given: CourseOutcomes,
    args: OutcomeFigureArgs<N>,
  ): Promise<Told<OutcomeFigure<N>>> {
    return telling(async () => {
      const judged = await Promise.all([...new Set(given.links.map((l) => l.assessmentId))].map((id) => this.judgedOf(id)))
      const figure = OUTCOME_FIGURES[name] as unknown as (
        state: CourseState,
        judged: readonly JudgedReadings[],
        given: CourseOutcomes,
        ...args: OutcomeFigureArgs<N>
      ) => OutcomeFigure<N>
      return figure(this.state(), judged, given, ...args)
    })
  }

  /** This course beside others, which are fetched once. */
  async askYears(courseIds: readonly string[], wanted: string | null, asMarked: boolean): Promise<Told<Years>> {
    return telling(async () => {
      const earlier = await Promise.all(courseIds.map((id) => this.otherCourse(id)))
      return YEARS(this.state(), earlier, wanted, asMarked)
    })
  }

  /** What withdrawing a decision would do; null where that can’t be told before it is done. */
  async askWithdrawal(decisionId: string): Promise<Told<Withdrawal>> {
    return telling(async () => {
      const { table, workings, outcome } = this.loaded()
      const plan = await call(routes.withoutDecision, { params: { courseId: table.head.id, decisionId } })
      const without = plan && withPlan(workings, plan)
      if (!without) return { decisionId, change: null, problem: null }
      const [finding] = checkBoundaries(without.course.boundaries, without.course.policy.above100)
      if (finding) return { decisionId, change: null, problem: finding.message }
      return { decisionId, change: changeBetween(outcome, Outcome.of(without)), problem: null }
    })
  }

  private judgedOf(assessmentId: string): Promise<JudgedReadings> {
    const { table, workings } = this.loaded()
    const known = this.judged.get(assessmentId)
    if (known?.beside === workings.readings) return known.readings
    const readings = call(routes.judged, { params: { courseId: table.head.id, assessmentId } }).then(unpackJudged)
    this.judged.set(assessmentId, { beside: workings.readings, readings })
    readings.catch(() => this.judged.delete(assessmentId))
    return readings
  }

  private otherCourse(courseId: string): Promise<CourseState> {
    const known = this.others.get(courseId)
    if (known) return known
    const fetched = call(routes.table, { params: { courseId } }).then((packed): CourseState => {
      const { scripts, readings, ...table } = unpackTable(packed)
      const workings = workingsOf({ ...table, scripts, readings })
      const outcome = Outcome.of(workings)
      return { table, workings, tried: workings, changes: [], adopted: outcome, current: outcome }
    })
    this.others.set(courseId, fetched)
    fetched.catch(() => this.others.delete(courseId))
    return fetched
  }

  private state(): CourseState {
    const { table, workings, outcome } = this.loaded()
    return {
      table,
      workings,
      tried: this.trial?.tried ?? workings,
      changes: this.trial?.changes ?? [],
      adopted: outcome,
      current: this.trial?.outcome ?? outcome,
    }
  }

  private loaded() {
    if (!this.base) throw new Error('the course has not been fetched')
    return this.base
  }

  private async fetchNow(courseId: string, personId: string | null, told: WrittenFrom | null, isShown: boolean): Promise<Fetched> {
    page.personId = personId
    try {
      if (this.base) {
        // Where the page is ahead of what is here, that alone is not all that was written.
        if (told && told.from > this.base.table.version) told = null
        const foretold = told && this.foretoldNow(told)
        if (foretold) return isShown ? { asForetold: { revision: foretold.revision } } : { course: foretold }
        const written = told && this.patched(told)
        if (written) return { course: written }
        const version = this.base.table.version
        const since = await call(routes.tableSince, { params: { courseId, version } })
        const course = since && this.patched(since)
        if (course) return { course }
      }
      const { scripts, readings, ...table } = unpackTable(await call(routes.table, { params: { courseId } }))
      const workings = workingsOf({ ...table, scripts, readings })
      return { course: this.take(table, workings, Outcome.of(workings)) }
    } catch (e) {
      return notTold(e)
    }
  }

  /** Takes over what was written since; null where that is not enough. */
  private patched({ version, hasMarks, cells, plan }: Written): AdoptedCourse | null {
    const base = this.loaded()
    // The echo of what is here already, or told late.
    if (version <= base.table.version) return base.told
    const written = workingsSince(base.workings, { cells, plan })
    if (!written) return null
    const { workings } = written
    const outcome = plan ? Outcome.of(workings) : base.outcome.after(workings, written.cells)
    return this.take(plan ?? { ...base.table, version, hasMarks }, workings, outcome, plan)
  }

  /** Takes over what was written since where that is what was foretold; null where it is not. */
  private foretoldNow(written: WrittenFrom): AdoptedCourse | null {
    const { table } = this.loaded()
    const { coming } = this
    if (!coming || written.version <= table.version || !isAsForetold(coming.foretold, written)) return null
    const { version, hasMarks } = written
    return this.take({ ...table, version, hasMarks }, coming.workings, coming.outcome, null, coming.foretold)
  }

  private take(
    table: TablePlan,
    workings: Workings,
    outcome: Outcome,
    plan: TablePlan | null = table,
    { items, scripts, toSettle }: ReturnType<typeof whatIsOpen> = whatIsOpen(table, workings, outcome),
  ): AdoptedCourse {
    // Its changes are tried again on the new base by whoever keeps the trial.
    this.trial = null
    this.foretold.clear()
    this.coming = null
    const { version, hasMarks } = table
    const course = { revision: ++this.revision, version, hasMarks, plan, graded: outcome.graded, items, scripts, toSettle }
    this.base = { table, workings, outcome, told: course }
    return course
  }
}

/** What is open at the stops, and how many scripts there are. */
function whatIsOpen(table: TablePlan, workings: Workings, outcome: Outcome): Pick<AdoptedCourse, 'items' | 'scripts' | 'toSettle'> {
  const several = table.assessments.map((a) => a.readingsWanted > 1)
  let [scripts, toSettle] = [0, 0]
  workings.scripts.there.forEach((there, cell) => {
    if (there === NO_SCRIPT) return
    scripts++
    if (several[cell % several.length]) toSettle++
  })
  return { items: openItems(workings, planFacts(table), outcome.standing), scripts, toSettle }
}
