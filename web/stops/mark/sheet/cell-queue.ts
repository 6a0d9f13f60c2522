import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useRef } from 'react'
import type { CellValue } from '#core/marking'
import { CellWrite, routes, type CellRefusal } from '#contract'
import { call } from '../../../api/client'
import { useWrittenTo } from '../../../course/course'
import { keptList } from '../../../saving/kept-list'
import { useKept } from '../../../saving/useKept'
import { useOutbox } from '../../../saving/useOutbox'
import type { Cells } from './cells'

export const cellKey = (c: { studentId: string; assessmentId: string }) => `${c.studentId} ${c.assessmentId}`
export interface CellEdit extends CellValue {
  studentId: string
  assessmentId: string
  /** Version of the cell that it was typed over, where that may not be the latest. */
  readAt?: number
}
export const without = <V>(map: Map<string, V>, key: string): Map<string, V> => new Map([...map].filter(([k]) => k !== key))
export type Refused = CellRefusal & { typed: CellEdit }

const BATCH = 2000

const nameOf = (courseId: string, personId: string) => `level-table-cells ${courseId} ${personId}`
export const keptCells = (courseId: string, personId: string) => keptList(nameOf(courseId, personId), CellWrite)

/**
 * Saves cells as they are typed. What is not saved yet is shown as typed; what the server refuses stays in its cell with the reason.
 * A whole department pasted at once is more than a browser keeps: to leave before it is sent is asked about.
 */
export function useCellQueue(courseId: string, personId: string, cells: Cells) {
  const queries = useQueryClient()
  const table = useWrittenTo(courseId)
  /** The version that this page itself saved last. */
  const ours = useRef(new Map<string, number>())
  const [refused, setRefused] = useKept(`refused ${courseId} ${personId}`, () => new Map<string, Refused>())
  const kept = keptCells(courseId, personId)
  const [outbox, { waiting: unsaved }] = useOutbox(
    nameOf(courseId, personId),
    personId,
    {
      nameOf: cellKey,
      after: 0,
      atOnce: BATCH,
      // With the version each was typed over, so that a change by somebody else is not written over unseen.
      // A remark that waits goes along with a mark that is typed after it.
      merge: (next: CellWrite, waiting) => ({ ...waiting, ...next, version: waiting.version }),
      async send(batch) {
        const from = table.version()
        const answer = call(routes.writeCells, { params: { courseId }, body: { cells: [...batch], tableVersion: from } })
        table.expect(batch)
        const { since, ...done } = await answer
        return { ...done, since: since && from !== undefined ? { ...since, from } : undefined }
      },
      rebase(next, sent, { saved }) {
        const now = saved.find((c) => cellKey(c) === cellKey(sent))
        return now ? { ...next, version: now.version } : next
      },
      answered({ saved, refused: no, since }, batch) {
        for (const c of saved) ours.current.set(cellKey(c), c.version)
        cells.put([...saved, ...no.flatMap((r) => r.current ?? [])])
        setRefused((old) => {
          // Where it is as it was nothing is drawn for it.
          if (no.length === 0 && !saved.some((s) => old.has(cellKey(s)))) return old
          const next = new Map(old)
          for (const s of saved) next.delete(cellKey(s))
          for (const r of no) next.set(cellKey(r), { ...r, typed: batch.find((e) => cellKey(e) === cellKey(r))! })
          return next
        })
        table.take(since)
      },
      // Refused as a whole (a confirmed course, say): the head says why, and the sheet shows what stands.
      refused: () => void queries.invalidateQueries({ queryKey: ['sheet', courseId] }),
      keep: kept.keep,
    },
    () => ({ entries: kept.read() }),
  )

  const latest = useRef(cells)
  latest.current = cells
  const write = useCallback(
    (edits: CellEdit[]) => {
      const { current } = latest
      outbox.put(
        edits.map(({ readAt, ...e }) => {
          const now = current.get(current.placeOf(e.studentId), current.columnOf(e.assessmentId))?.version ?? 0
          return { ...e, version: readAt === undefined || ours.current.get(cellKey(e)) === now ? now : readAt }
        }),
      )
    },
    [outbox],
  )
  const forget = useCallback((key: string) => setRefused((old) => without(old, key)), [setRefused])
  return { write, refused, unsaved, forget }
}
