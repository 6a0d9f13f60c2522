import { useIsFetching, useQuery } from '@tanstack/react-query'
import { wrap, type Remote } from 'comlink'
import { createContext, use, useCallback, useEffect, useMemo, useState, type ReactNode } from 'react'
import { useLocation } from 'react-router'
import { applyChanges, workingsOf, type Change, type ResultChange, type Workings } from '#core'
import { routes, type CourseTable } from '#contract'
import { call, messageOf } from '../api/client'
import { problemOf } from '../api/problem-of'
import type { Grading, Outcome } from '../workers/grading.worker'
import { usePlanQuery } from './plan'
import { needsMarks } from './needs-marks'
import { useCourseEvents } from './events'
import { useTrial, type OpenTrial } from './trial'

interface Trial {
  changes: Change[]
  /** What the grades would be; null until the worker has answered. */
  outcome: Outcome | null
  change: ResultChange | null
  problem: string | null
}

export interface Course extends Omit<OpenTrial, 'changes' | 'courseId'> {
  id: string
  table: CourseTable
  workings: Workings
  /** The workings with the open trial in them. */
  tried: Workings
  adopted: Outcome
  trial: Trial
  /** The trial where one is open, else what is adopted. */
  current: Outcome
}

interface CourseSoFar {
  course: Course | null
  problem: string | null
  /** What would have to be fetched, where it is so much that it is fetched only when asked for. */
  waitsFor: { students: number; assessments: number } | null
  ask: () => void
}

const CourseContext = createContext<CourseSoFar | null>(null)

/** Scripts above which the first stop does without the marks unless they are asked for. */
const MANY_SCRIPTS = 100_000
const SETTLED_MS = 250

/** Loads a course with all its marks and grades it in a worker, beside the screens that need only its plan. */
export function CourseProvider({ courseId, children }: { courseId: string; children: ReactNode }) {
  const open = useTrial()
  const trial = open.changes
  const { enabled, lightFirst, waitsFor, ask } = useWhenToLoad(courseId, trial.length > 0)
  const plan = usePlanQuery(courseId, lightFirst)
  const table = useQuery({
    queryKey: ['table', courseId],
    queryFn: () => call(routes.table, { params: { courseId } }),
    enabled,
  })
  const grading = useWorker()
  const [adopted, setAdopted] = useState<{ for: CourseTable; outcome: Outcome } | null>(null)
  const [tried, setTried] = useState<{ for: Change[]; outcome: Outcome; change: ResultChange } | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [ungraded, setUngraded] = useState<string | null>(null)

  useCourseEvents(courseId, table.data?.version ?? plan.data?.version)

  useEffect(() => {
    if (!table.data || !grading) return
    let current = true
    const loaded = table.data
    grading.load(loaded).then(
      (outcome) => {
        if (!current) return
        setAdopted({ for: loaded, outcome })
        setUngraded(null)
      },
      (e: unknown) => current && setUngraded(messageOf(e)),
    )
    return () => void (current = false)
  }, [table.data, grading])

  useEffect(() => {
    if (!adopted || !grading || trial.length === 0) {
      setTried(null)
      setProblem(null)
      return
    }
    let current = true
    grading.tryOut(trial).then(
      (done) => {
        if (!current) return
        setTried({ for: trial, outcome: done, change: done.change })
        setProblem(null)
      },
      (e: unknown) => current && setProblem(messageOf(e)),
    )
    return () => void (current = false)
  }, [adopted, grading, trial])

  const workings = useMemo(() => (table.data ? workingsOf(table.data) : null), [table.data])
  const triedWorkings = useMemo(() => (workings ? applyChanges(workings, trial) : null), [workings, trial])
  const course = useMemo((): Course | null => {
    if (!table.data || !workings || !triedWorkings || !adopted) return null
    return {
      ...open,
      id: courseId,
      table: table.data,
      workings,
      tried: triedWorkings,
      adopted: adopted.outcome,
      trial: { changes: trial, outcome: tried?.outcome ?? null, change: tried?.for === trial ? tried.change : null, problem },
      current: trial.length > 0 && tried ? tried.outcome : adopted.outcome,
    }
  }, [courseId, table.data, workings, triedWorkings, adopted, trial, tried, problem, open])
  const failed =
    problemOf(table) ??
    (ungraded === null ? null : `The grades could not be worked out: ${ungraded} Open the page again; the marks are safe.`)
  const value = useMemo(() => ({ course, problem: failed, waitsFor, ask }), [course, failed, waitsFor, ask])
  return <CourseContext value={value}>{children}</CourseContext>
}

/**
 * When the marks are fetched. Where a page does without them what is on screen comes first, and the marks of a large department
 * only where a trial needs them or somebody asks; every other stop needs them at once.
 */
function useWhenToLoad(courseId: string, trialOpen: boolean) {
  const lightFirst = !needsMarks(useLocation().pathname)
  const { data } = usePlanQuery(courseId, lightFirst)
  const fetching = useIsFetching({ predicate: ({ queryKey: [key, of] }) => (key === 'roll' || key === 'sheet') && of === courseId })
  const [settled, setSettled] = useState(false)
  const [asked, setAsked] = useState(false)
  const ready = !!data && fetching === 0
  useEffect(() => {
    if (!ready) return
    const timer = setTimeout(() => setSettled(true), SETTLED_MS)
    return () => clearTimeout(timer)
  }, [ready])
  const [students, assessments] = [data?.head.students ?? 0, data?.assessments.length ?? 0]
  const many = students * assessments > MANY_SCRIPTS && !asked && !trialOpen
  const ask = useCallback(() => setAsked(true), [])
  const waitsFor = useMemo(() => (lightFirst && many ? { students, assessments } : null), [lightFirst, many, students, assessments])
  return { lightFirst, enabled: !lightFirst || (settled && !many), waitsFor, ask }
}

function useWorker(): Remote<Grading> | null {
  const [remote, setRemote] = useState<Remote<Grading> | null>(null)
  useEffect(() => {
    const worker = new Worker(new URL('../workers/grading.worker.ts', import.meta.url), { type: 'module' })
    const wrapped = wrap<Grading>(worker)
    // A proxy is callable, so it must not be handed to the setter as if it were one.
    setRemote(() => wrapped)
    return () => worker.terminate()
  }, [])
  return remote
}

/** The course if its marks have arrived, and what went wrong if they cannot. */
export function useCourseSoFar(): CourseSoFar {
  const value = use(CourseContext)
  if (!value) throw new Error('outside CourseProvider')
  return value
}

export function useCourse(): Course {
  const { course } = useCourseSoFar()
  if (!course) throw new Error('the marks have not arrived')
  return course
}
