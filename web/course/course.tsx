import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { wrap } from 'comlink'
import { createContext, use, useDeferredValue, useEffect, useMemo, useState, useSyncExternalStore, type ReactNode } from 'react'
import type { GradedCourse } from '#core/grades'
import type { ResultChange } from '#core/rescale'
import { planWithChanges, type Change, type GradedColumns, type SentMark } from '#core/trial'
import type { CourseOutcomes, TablePlan } from '#contract'
import { problemOf } from '../api/problem-of'
import { usePlanQuery } from './plan'
import { useCourseEvents } from './events'
import { tableKey, useTrial, type OpenTrial } from './trial'
import type { CourseBook, WrittenFrom } from './book'
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
import type { Withdrawal } from './withdrawal'
import { CourseStore, type Adopted } from './store'
import { page } from '../api/client'
import { useWhenToLoad } from './useWhenToLoad'

interface Trial {
  changes: Change[]
  /** What changes against what is adopted; null until it is worked out. */
  change: ResultChange | null
  problem: string | null
}

/** What is the same whatever is tried. */
export interface DecidedCourse extends Pick<OpenTrial, 'mayDecide' | 'propose' | 'refresh'> {
  id: string
  /** The course as it is decided, but for its scripts and readings. */
  table: TablePlan
  /** What is open at the stops, and how many scripts there are. */
  open: Pick<Adopted, 'items' | 'scripts' | 'toSettle'>
  adopted: GradedCourse
}

export interface Course extends DecidedCourse, Omit<OpenTrial, 'changes' | 'courseId'> {
  /** The course with the open trial in it. */
  tried: TablePlan
  trial: Trial
  /** The results of the trial where one is worked out, else what is adopted. */
  current: GradedCourse
  /** Both in columns. */
  graded: { adopted: GradedColumns; current: GradedColumns }
}

interface CourseSoFar {
  course: Course | null
  problem: string | null
  /** What would have to be fetched, where it is so much that it is fetched only when asked for. */
  waitsFor: { students: number; assessments: number } | null
  ask: () => void
}

const CourseContext = createContext<CourseSoFar | null>(null)
const DecidedContext = createContext<DecidedCourse | null>(null)
const HorizonContext = createContext<Course | null>(null)

interface Props {
  courseId: string
  /** Whether the page on screen does without the marks. */
  lightFirst: boolean
  children: ReactNode
}

/** Keeps a course with all its marks in a worker, beside the screens that need only its plan. */
export function CourseProvider({ courseId, lightFirst, children }: Props) {
  const open = useTrial()
  const { changes: trial, listen } = open
  const store = useStore(courseId)
  const { enabled, waitsFor, ask } = useWhenToLoad(courseId, lightFirst, {
    trialOpen: trial.length > 0,
    isLoaded: store?.isLoaded ?? false,
  })
  const plan = usePlanQuery(courseId, lightFirst)
  const course = useQuery({
    queryKey: tableKey(courseId),
    queryFn: () => store!.fetch(courseId),
    enabled: enabled && store !== null,
    // It is new as a whole or the same.
    structuralSharing: false,
  })
  const adopted = course.data
  const now = useSyncExternalStore(store?.subscribe ?? never, store?.getSnapshot ?? nothing)
  // What a trial comes to is drawn on the horizon first, then at the stop.
  const { revision, ...then } = useDeferredValue(now)
  useCourseEvents(courseId, adopted?.table.version ?? plan.data?.version)
  useEffect(() => (store ? listen(store.tryAhead) : undefined), [store, listen])
  useEffect(() => {
    void store?.tryOut(trial)
  }, [store, trial])

  const { mayDecide, propose, refresh } = open
  const decided = useMemo(
    () => adopted && { id: courseId, table: adopted.table, open: adopted, adopted: adopted.result, mayDecide, propose, refresh },
    [courseId, adopted, mayDecide, propose, refresh],
  )
  const triedPlan = useMemo(() => adopted && planWithChanges(adopted.table, trial).plan, [adopted, trial])
  const known = useMemo(
    () => decided && triedPlan && adopted && { ...open, ...decided, tried: triedPlan, graded: adopted.graded },
    [decided, adopted, triedPlan, open],
  )
  const atHorizon = useCourseAs(known, trial, now)
  const value = useCourseAs(known, trial, then)
  const failed = problemOf(course)
  const soFar = useMemo(() => ({ course: value, problem: failed, waitsFor, ask }), [value, failed, waitsFor, ask])
  const asked = useMemo(() => ({ store, courseId, revision }), [store, courseId, revision])
  return (
    <CourseContext value={soFar}>
      <DecidedContext value={decided ?? null}>
        <HorizonContext value={atHorizon}>
          <StoreContext value={asked}>{children}</StoreContext>
        </HorizonContext>
      </DecidedContext>
    </CourseContext>
  )
}

/** The course with what its trial comes to, as far as that is worked out. */
function useCourseAs(
  known: (Omit<Course, 'trial' | 'current' | 'graded'> & { graded: GradedColumns }) | undefined | null,
  changes: Change[],
  { tried, problem }: Pick<ReturnType<CourseStore['getSnapshot']>, 'tried' | 'problem'>,
): Course | null {
  return useMemo(() => {
    if (!known) return null
    const now = changes.length > 0 && tried ? tried : { result: known.adopted, graded: known.graded }
    return {
      ...known,
      trial: { changes, change: tried?.changes === changes ? tried.change : null, problem },
      current: now.result,
      graded: { adopted: known.graded, current: now.graded },
    }
  }, [known, changes, tried, problem])
}

const NOT_ARRIVED = 'the marks have not arrived'
const NOT_YET = { tried: null, problem: null, revision: 0 }
const nothing = () => NOT_YET
const never = () => () => undefined
const expectNothing = () => undefined

const NO_COURSE = { store: null, courseId: '', revision: 0 }
const StoreContext = createContext<{ store: CourseStore | null; courseId: string; revision: number } | null>(null)

/** How long figures are kept that nobody looks at: one step back and forth. */
const FIGURES_KEPT_MS = 30_000

/** Figures of the course as it stands now, reckoned where its marks are; those before stay until the new ones have come. */
export const useFigures = <N extends FigureName>(name: N, ...args: FigureArgs<N>): Figure<N> | undefined =>
  useAsked([name, ...args], (store) => store.ask(name, args))

/** The same where the course is known at all: who marks only does not have it. */
export const useFiguresIfKnown = <N extends FigureName>(name: N, ...args: FigureArgs<N>): Figure<N> | undefined => {
  const isKnown = use(StoreContext) !== null
  return useAsking([name, ...args], (store) => store.ask(name, args), isKnown).data
}

/** The same, asked for once something else has come; what came before stands until then. */
export const useFiguresOnce = <N extends FigureName>(ready: boolean, name: N, ...args: FigureArgs<N>): Figure<N> | undefined =>
  useAsked([name, ...args], (store) => store.ask(name, args), ready)

/** The same of an assessment’s readings, criterion by criterion; nothing is asked for without an assessment. */
export const useJudgedFigures = <N extends JudgedFigureName>(
  name: N,
  assessmentId: string | null,
  ...args: JudgedFigureArgs<N>
): JudgedFigure<N> | undefined =>
  useAsked([name, assessmentId, ...args], (store) => store.askJudged(name, assessmentId!, args), assessmentId !== null)

/**
 * The same of outcomes; nothing is asked for before it is known which there are.
 * @param stamp another one whenever something about them is another
 */
export const useOutcomeFigures = <N extends OutcomeFigureName>(
  name: N,
  given: CourseOutcomes | undefined,
  stamp: number,
  ...args: OutcomeFigureArgs<N>
): OutcomeFigure<N> | undefined => useAsked([name, stamp, ...args], (store) => store.askOutcomes(name, given!, args), given !== undefined)

/** The same beside earlier courses, as they count or as they were marked. */
export const useYears = (courseIds: readonly string[], wanted: string | null, asMarked = false): Years | undefined =>
  useAsked(['years', courseIds, wanted, asMarked], (store) => store.askYears(courseIds, wanted, asMarked))

/** For whoever knows which trials may be opened next: the one that is then shows without being waited for. */
export function useExpectTrials(): CourseStore['expect'] {
  return use(StoreContext)?.store?.expect ?? expectNothing
}

/** For a write that is answered what was written to the course since: the course takes that, and asks for the rest. */
export function useWrittenTo(courseId: string) {
  const queries = useQueryClient()
  const store = use(StoreContext)?.store
  return useMemo(() => {
    const queryKey = tableKey(courseId)
    return {
      /** Marks are on their way: what they would make of the course is worked out meanwhile. */
      expect: (marks: readonly SentMark[]) => store?.expectMarks(marks),
      /** Of the table that the page has; nothing where it has none. */
      version: () => queries.getQueryData<Adopted>(queryKey)?.table.version,
      take(since: WrittenFrom | undefined): void {
        const foretold = since && store?.tell(since)
        if (foretold) queries.setQueryData(queryKey, foretold)
        void queries.invalidateQueries({ queryKey })
      },
    }
  }, [queries, store, courseId])
}

/** What withdrawing a decision would do; nothing is asked for without one. */
export const useWithdrawal = (decisionId: string | null): Withdrawal | undefined =>
  useAsked(['withdrawal', decisionId], (store) => store.askWithdrawal(decisionId!), decisionId !== null)

/** Asks for figures of outcomes before they are looked at; what goes wrong is told where they are. */
export function useOutcomeFiguresAhead<N extends OutcomeFigureName>(
  name: N,
  given: CourseOutcomes | undefined,
  stamp: number,
  ...args: OutcomeFigureArgs<N>
): void {
  useAsking([name, stamp, ...args], (store) => store.askOutcomes(name, given!, args), given !== undefined)
}

function useAsked<T>(key: readonly unknown[], ask: (store: CourseStore) => Promise<T>, wanted = true): T | undefined {
  const { data, error } = useAsking(key, ask, wanted)
  // Nobody can go on without them; the place around says what went wrong.
  if (error) throw error
  return data
}

function useAsking<T>(key: readonly unknown[], ask: (store: CourseStore) => Promise<T>, wanted: boolean) {
  const asked = use(StoreContext)
  if (!asked && wanted) throw new Error('outside CourseProvider')
  const { store, courseId, revision } = asked ?? NO_COURSE
  return useQuery({
    queryKey: ['figures', courseId, revision, ...key],
    queryFn: () => ask(store!),
    enabled: store !== null && revision > 0 && wanted,
    placeholderData: keepPreviousData,
    structuralSharing: false,
    staleTime: Infinity,
    gcTime: FIGURES_KEPT_MS,
    retry: false,
  })
}

function useStore(courseId: string): CourseStore | null {
  const [store, setStore] = useState<CourseStore | null>(null)
  useEffect(() => {
    const worker = new Worker(new URL('./course.worker.ts', import.meta.url), { type: 'module', name: page.settings.decimal })
    setStore(new CourseStore(wrap<CourseBook>(worker)))
    return () => {
      setStore(null)
      worker.terminate()
    }
  }, [courseId])
  return store
}

/** The course if its marks have arrived, and what went wrong if they cannot. */
export function useCourseSoFar(): CourseSoFar {
  const value = use(CourseContext)
  if (!value) throw new Error('outside CourseProvider')
  return value
}

/** The course as the horizon draws it, which comes before the stops. */
export function useCourseAtHorizon(): Course {
  const course = use(HorizonContext)
  if (!course) throw new Error('outside CourseProvider')
  return course
}

/** The course with what is tried: whoever takes it is drawn anew at every step of a trial. */
export function useCourse(): Course {
  const { course } = useCourseSoFar()
  if (!course) throw new Error(NOT_ARRIVED)
  return course
}

/** The course as it is decided: whoever takes no more than this is left in peace while something is tried. */
export function useDecidedCourse(): DecidedCourse {
  const decided = use(DecidedContext)
  if (!decided) throw new Error(NOT_ARRIVED)
  return decided
}
