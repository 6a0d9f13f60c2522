import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { routes, type Cell, type CellRefusal, type CellWrite, type Sheet } from '#contract'
import { call, OfflineError } from '../../api/client'
import { useSaved } from '../../frame/saved'

export const cellKey = (c: { studentId: string; assessmentId: string }) => `${c.studentId} ${c.assessmentId}`
export type CellValue = Pick<CellWrite, 'mark' | 'status' | 'daysLate'>
export interface CellEdit extends CellValue {
  studentId: string
  assessmentId: string
}

const FLUSH_MS = 120
const RETRY_MS = 3000

/**
 * Saves cells as they are typed. What is not saved yet is shown as typed; what the server refuses stays in
 * its cell with the reason; with the connection gone everything waits and is sent when it is back.
 */
export function useCellQueue(courseId: string, sheet: Sheet, afterSave: () => void) {
  const queries = useQueryClient()
  const { saving } = useSaved()
  const waiting = useRef(new Map<string, CellEdit>())
  const sending = useRef(false)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const cells = useRef(new Map<string, Cell>())
  const [refused, setRefused] = useState(new Map<string, CellRefusal & { typed: CellEdit }>())
  const [unsaved, setUnsaved] = useState(new Map<string, CellEdit>())

  // The latest cells by key, for the versions that writes carry.
  useEffect(() => {
    cells.current = new Map(sheet.cells.map((c) => [cellKey(c), c]))
  }, [sheet])

  const store = useCallback(
    (saved: Cell[]) => {
      for (const c of saved) cells.current.set(cellKey(c), c)
      const changed = new Map(saved.map((c) => [cellKey(c), c]))
      queries.setQueryData<Sheet>(['sheet', courseId], (old) => {
        if (!old) return old
        const known = new Set(old.cells.map(cellKey))
        const update = (c: Cell): Cell => {
          const now = changed.get(cellKey(c))
          return now ? { ...now, fromReadings: c.fromReadings } : c
        }
        return { ...old, cells: [...old.cells.map(update), ...saved.filter((c) => !known.has(cellKey(c)))] }
      })
    },
    [queries, courseId],
  )

  const flush = useCallback(async () => {
    if (sending.current || waiting.current.size === 0) return
    sending.current = true
    const batch = [...waiting.current.values()].slice(0, 2000)
    const writes = batch.map((e): CellWrite => ({ ...e, version: cells.current.get(cellKey(e))?.version ?? 0 }))
    try {
      const done = await saving(call(routes.writeCells, { params: { courseId }, body: { cells: writes } }))
      for (const e of batch) if (waiting.current.get(cellKey(e)) === e) waiting.current.delete(cellKey(e))
      store(done.saved)
      for (const r of done.refused) if (r.current) cells.current.set(cellKey(r), r.current)
      setRefused((old) => {
        const next = new Map(old)
        for (const s of done.saved) next.delete(cellKey(s))
        for (const r of done.refused) next.set(cellKey(r), { ...r, typed: batch.find((e) => cellKey(e) === cellKey(r))! })
        return next
      })
      setUnsaved(new Map(waiting.current))
      afterSave()
    } catch (e) {
      if (!(e instanceof OfflineError)) {
        // Refused as a whole (a confirmed course, say): the head says why, and the sheet shows what stands.
        waiting.current.clear()
        setUnsaved(new Map())
        void queries.invalidateQueries({ queryKey: ['sheet', courseId] })
      }
    }
    sending.current = false
    if (waiting.current.size > 0) timer.current = setTimeout(() => void flush(), RETRY_MS)
  }, [courseId, saving, store, queries, afterSave])

  const write = useCallback(
    (edits: CellEdit[]) => {
      for (const e of edits) waiting.current.set(cellKey(e), e)
      setUnsaved(new Map(waiting.current))
      clearTimeout(timer.current)
      timer.current = setTimeout(() => void flush(), FLUSH_MS)
    },
    [flush],
  )

  useEffect(() => {
    const warn = (e: BeforeUnloadEvent) => {
      if (waiting.current.size > 0) e.preventDefault()
    }
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [])

  const forget = useCallback((key: string) => setRefused((old) => new Map([...old].filter(([k]) => k !== key))), [])
  return { write, refused, unsaved, forget }
}
