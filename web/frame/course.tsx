import { useQuery, useQueryClient } from '@tanstack/react-query'
import { wrap, type Remote } from 'comlink'
import { createContext, use, useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { addChanges, applyChanges, workingsOf, type Change, type ResultChange, type Workings } from '#core'
import { routes, type CourseTable } from '#contract'
import { addressOf, call, messageOf } from '../api/client'
import type { Grading, Outcome } from '../workers/grading.worker'
import { useSaved } from './saved'
import { useUndo } from './undo'

interface Trial {
  changes: Change[]
  /** What the grades would be; null until the worker has answered. */
  outcome: Outcome | null
  change: ResultChange | null
  problem: string | null
}

export interface Course {
  id: string
  table: CourseTable
  workings: Workings
  /** The workings with the open trial in them. */
  tried: Workings
  adopted: Outcome
  trial: Trial
  /** The trial where one is open, else what is adopted. */
  current: Outcome
  /** Adds to the open trial, or opens one; undoable. */
  propose: (changes: Change[], label: string) => void
  /** Takes changes out of the trial again. */
  setTrial: (changes: Change[], label: string) => void
  /** Shows changes on top of the trial while something is being pulled; null lets go. Nothing is kept. */
  preview: (changes: Change[] | null) => void
  discard: () => void
  adopt: (reason: string) => Promise<void>
  refresh: () => Promise<void>
  /** Whether this person may decide now. */
  mayDecide: boolean
}

const CourseContext = createContext<Course | null>(null)

const NO_CHANGES: Change[] = []
const KEEP_AFTER_MS = 400

/** Loads a course, grades it in a worker, and keeps the open trial. */
export function CourseProvider({
  courseId,
  children,
  waiting,
}: {
  courseId: string
  children: ReactNode
  waiting: (problem: string | null) => ReactNode
}) {
  const queries = useQueryClient()
  const { saving } = useSaved()
  const { did } = useUndo()
  const table = useQuery({ queryKey: ['table', courseId], queryFn: () => call(routes.table, { params: { courseId } }) })
  const mayDecide = table.data?.head.role === 'lead' && table.data.head.confirmedIssue === null
  const kept = useQuery({
    queryKey: ['trial', courseId],
    queryFn: () => call(routes.trial, { params: { courseId } }),
    enabled: table.data?.head.role === 'lead',
    staleTime: Infinity,
  })
  const grading = useWorker()
  const [adopted, setAdopted] = useState<{ for: CourseTable; outcome: Outcome } | null>(null)
  const [changes, setChanges] = useState<Change[] | null>(null)
  const [tried, setTried] = useState<{ for: Change[]; outcome: Outcome; change: ResultChange } | null>(null)
  const [problem, setProblem] = useState<string | null>(null)

  useCourseEvents(courseId, table.data?.version)

  const keptTrial = mayDecide ? (changes ?? kept.data?.changes ?? NO_CHANGES) : NO_CHANGES
  const [pulled, setPulled] = useState<Change[] | null>(null)
  const trial = useMemo(() => (pulled ? addChanges(keptTrial, pulled) : keptTrial), [keptTrial, pulled])
  useEffect(() => {
    if (!table.data || !grading) return
    let current = true
    const loaded = table.data
    void grading.load(loaded).then((outcome) => current && setAdopted({ for: loaded, outcome }))
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

  const keepLater = useRef<ReturnType<typeof setTimeout>>(undefined)
  const keep = useCallback(
    (next: Change[]) => {
      setChanges(next)
      clearTimeout(keepLater.current)
      keepLater.current = setTimeout(
        () => void saving(call(routes.keepTrial, { params: { courseId }, body: { changes: next } })).catch(() => undefined),
        KEEP_AFTER_MS,
      )
    },
    [courseId, saving],
  )

  const latest = useRef(keptTrial)
  latest.current = keptTrial
  const setTrial = useCallback(
    (next: Change[], label: string) => {
      const before = latest.current
      setPulled(null)
      keep(next)
      did({ label, undo: () => keep(before), redo: () => keep(next) })
    },
    [keep, did],
  )
  const propose = useCallback((added: Change[], label: string) => setTrial(addChanges(latest.current, added), label), [setTrial])
  const discard = useCallback(() => setTrial([], 'discard the trial'), [setTrial])
  const refresh = useCallback(async () => {
    await Promise.all(
      ['table', 'sheet', 'record', 'issues', 'courses', 'script'].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    )
  }, [queries])
  const adopt = useCallback(
    async (reason: string) => {
      clearTimeout(keepLater.current)
      const decision = await saving(call(routes.adopt, { params: { courseId }, body: { changes: latest.current, reason } }))
      // The trial stays in sight until what it became has arrived, so that nothing flickers back.
      await refresh()
      setChanges([])
      queries.setQueryData(['trial', courseId], { changes: [] })
      did({
        label: `adopt: ${decision.summary}`,
        undo: async () => {
          await saving(call(routes.withdraw, { params: { courseId, decisionId: decision.id }, body: { reason: 'Undone' } }))
          keep(decision.changes)
          await refresh()
        },
        redo: async () => {
          await saving(call(routes.adopt, { params: { courseId }, body: { changes: decision.changes, reason } }))
          setChanges([])
          await refresh()
        },
      })
    },
    [courseId, saving, queries, refresh, did, keep],
  )

  const workings = useMemo(() => (table.data ? workingsOf(table.data) : null), [table.data])
  const triedWorkings = useMemo(() => (workings ? applyChanges(workings, trial) : null), [workings, trial])
  const value = useMemo((): Course | null => {
    if (!table.data || !workings || !triedWorkings || !adopted) return null
    return {
      id: courseId,
      table: table.data,
      workings,
      tried: triedWorkings,
      adopted: adopted.outcome,
      trial: { changes: trial, outcome: tried?.outcome ?? null, change: tried?.for === trial ? tried.change : null, problem },
      current: trial.length > 0 && tried ? tried.outcome : adopted.outcome,
      propose,
      setTrial,
      preview: setPulled,
      discard,
      adopt,
      refresh,
      mayDecide,
    }
  }, [courseId, table.data, workings, triedWorkings, adopted, trial, tried, problem, propose, setTrial, discard, adopt, refresh, mayDecide])

  if (!value) return waiting(table.error ? messageOf(table.error) : null)
  return <CourseContext value={value}>{children}</CourseContext>
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

/** Fetches again when somebody else changed the course. */
function useCourseEvents(courseId: string, known: number | undefined): void {
  const queries = useQueryClient()
  const seen = useRef(known)
  seen.current = known
  useEffect(() => {
    const source = new EventSource(addressOf(routes.events, { courseId }))
    source.onmessage = (e: MessageEvent<string>) => {
      if (seen.current !== undefined && Number(e.data) > seen.current)
        for (const key of ['table', 'sheet', 'record', 'issues', 'script']) void queries.invalidateQueries({ queryKey: [key] })
    }
    return () => source.close()
  }, [courseId, queries])
}

export function useCourse(): Course {
  const course = use(CourseContext)
  if (!course) throw new Error('outside CourseProvider')
  return course
}
