import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { CellValue } from '#core/marking'
import { routes, type CellRefusal, type CellWrite } from '#contract'
import { call, isStill, OfflineError, ProblemError } from '../../../api/client'
import { useSendBeforeSignOut } from '../../../session/leave'
import { useSaved } from '../../../saving/saved'
import { useKept } from '../../../saving/useKept'
import type { Cells } from './cells'
import { keepCells, keptCells } from './waiting'

export const cellKey = (c: { studentId: string; assessmentId: string }) => `${c.studentId} ${c.assessmentId}`
export interface CellEdit extends CellValue {
  studentId: string
  assessmentId: string
  /** Version of the cell that it was typed over, where that may not be the latest. */
  readAt?: number
}
export type Refused = CellRefusal & { typed: CellEdit }

const FLUSH_MS = 10
const RETRY_MS = 3000
const BATCH = 2000

/**
 * Saves cells as they are typed. What is not saved yet is shown as typed and kept over a reload; what the server refuses
 * stays in its cell with the reason; with the connection gone everything waits and is sent when it is back.
 */
export function useCellQueue(courseId: string, personId: string, cells: Cells, onSaved: () => void) {
  const queries = useQueryClient()
  const { saving, typed } = useSaved()
  // With the version each was typed over, so that a change by somebody else is not written over unseen.
  const waiting = useRef(new Map<string, CellWrite>())
  const sending = useRef<Promise<void> | null>(null)
  const kept = useRef(true)
  /** Says that what was typed is no longer waiting. */
  const settled = useRef<() => void>(undefined)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const latest = useRef(cells)
  latest.current = cells
  /** The version that this page itself saved last. */
  const ours = useRef(new Map<string, number>())
  const [refused, setRefused] = useKept(`refused ${courseId} ${personId}`, () => new Map<string, Refused>())
  const [unsaved, setUnsaved] = useState(new Map<string, CellWrite>())

  const show = useCallback(() => {
    kept.current = keepCells(courseId, personId, [...waiting.current.values()])
    setUnsaved(new Map(waiting.current))
  }, [courseId, personId])
  const versionOf = (e: CellEdit) => {
    const { current } = latest
    return current.get(current.placeOf(e.studentId), current.columnOf(e.assessmentId))?.version ?? 0
  }

  const sendBatch = useCallback(async () => {
    const batch = [...waiting.current.values()].slice(0, BATCH)
    let wait = 0
    let failed = false
    try {
      const done = await saving(call(routes.writeCells, { params: { courseId }, body: { cells: batch } }))
      const saved = new Map(done.saved.map((c) => [cellKey(c), c]))
      for (const e of batch) {
        const now = waiting.current.get(cellKey(e))
        if (now === e) waiting.current.delete(cellKey(e))
        // Typed again while the first was on its way: the next goes on top of it.
        else if (now && saved.has(cellKey(e))) waiting.current.set(cellKey(e), { ...now, version: saved.get(cellKey(e))!.version })
      }
      for (const c of done.saved) ours.current.set(cellKey(c), c.version)
      latest.current.put([...done.saved, ...done.refused.flatMap((r) => r.current ?? [])])
      setRefused((old) => {
        const next = new Map(old)
        for (const s of done.saved) next.delete(cellKey(s))
        for (const r of done.refused) next.set(cellKey(r), { ...r, typed: batch.find((e) => cellKey(e) === cellKey(r))! })
        return next
      })
      onSaved()
    } catch (e) {
      failed = true
      // Signed out meanwhile, they wait in the browser until this person is back.
      if (e instanceof OfflineError || (e instanceof ProblemError && e.problem.status === 401)) wait = RETRY_MS
      else {
        // Refused as a whole (a confirmed course, say): the head says why, and the sheet shows what stands.
        waiting.current.clear()
        void queries.invalidateQueries({ queryKey: ['sheet', courseId] })
      }
    }
    show()
    if (failed || waiting.current.size === 0) {
      settled.current?.()
      settled.current = undefined
    }
    return wait
  }, [courseId, saving, queries, onSaved, show, setRefused])
  const flush = useCallback((): Promise<void> => {
    if (sending.current) return sending.current
    if (waiting.current.size === 0 || !isStill(personId)) return Promise.resolve()
    clearTimeout(timer.current)
    sending.current = sendBatch().then((wait) => {
      sending.current = null
      if (waiting.current.size > 0) timer.current = setTimeout(() => void flush(), wait)
    })
    return sending.current
  }, [personId, sendBatch])
  useSendBeforeSignOut(async () => {
    await sending.current
    // As long as each batch gets through; the rest stays sealed in the browser.
    for (let before = Infinity; waiting.current.size > 0 && waiting.current.size < before;) {
      before = waiting.current.size
      await flush()
    }
  })

  const write = useCallback(
    (edits: CellEdit[]) => {
      for (const { studentId, assessmentId, mark, status, daysLate, readAt } of edits) {
        const e = { studentId, assessmentId, mark, status, daysLate }
        const now = versionOf(e)
        const over = readAt === undefined || ours.current.get(cellKey(e)) === now ? now : readAt
        waiting.current.set(cellKey(e), { ...e, version: waiting.current.get(cellKey(e))?.version ?? over })
      }
      show()
      settled.current ??= typed()
      clearTimeout(timer.current)
      timer.current = setTimeout(() => void flush(), FLUSH_MS)
    },
    [flush, show, typed],
  )

  useEffect(() => {
    for (const c of keptCells(courseId, personId)) if (!waiting.current.has(cellKey(c))) waiting.current.set(cellKey(c), c)
    if (waiting.current.size === 0) return
    show()
    void flush()
  }, [courseId, personId, flush, show])

  // A whole department pasted at once is more than a browser keeps: to leave before it is sent would lose some of it.
  useEffect(() => {
    const onLeave = (e: BeforeUnloadEvent) => {
      if (!kept.current && waiting.current.size > 0) e.preventDefault()
    }
    window.addEventListener('beforeunload', onLeave)
    return () => window.removeEventListener('beforeunload', onLeave)
  }, [])

  const forget = useCallback((key: string) => setRefused((old) => new Map([...old].filter(([k]) => k !== key))), [setRefused])
  return { write, refused, unsaved, forget }
}
