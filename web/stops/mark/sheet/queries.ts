import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { routes, unpackSheet, type SheetByCell } from '#contract'
import { call } from '../../../api/client'
import { courseChanged } from '../../../course/events'
import { cellsOf } from './cells'

const keyOf = (courseId: string) => ['sheet', courseId] as const

/** The mark sheet; what others write to it is put in as it comes. */
export function useSheet(courseId: string) {
  const queries = useQueryClient()
  useEffect(() => {
    const takeIn = async (wanted: number) => {
      const queryKey = keyOf(courseId)
      const fetchAnew = () => queries.invalidateQueries({ queryKey })
      // What is being fetched whole would take the place of what is put in meanwhile.
      if (queries.isFetching({ queryKey }) > 0) await queries.refetchQueries({ queryKey }, { cancelRefetch: false })
      const sheet = queries.getQueryData<SheetByCell>(queryKey)
      if (!sheet) return fetchAnew()
      if (sheet.version >= wanted) return
      try {
        const { version, cells } = await call(routes.sheetSince, { params: { courseId, version: sheet.version } })
        if (cells === null) return await fetchAnew()
        cellsOf(sheet).takeIn(cells)
        queries.setQueryData<SheetByCell>(keyOf(courseId), (now) => (now?.cells === sheet.cells ? { ...now, version } : now))
      } catch {
        await fetchAnew()
      }
    }
    // One after the other: an answer that is overtaken must not undo a later one.
    let turn: Promise<unknown> = Promise.resolve()
    const onChange = (e: Event) => {
      e.preventDefault()
      turn = turn.then(() => takeIn((e as CustomEvent<number>).detail)).catch(() => undefined)
    }
    courseChanged.addEventListener(courseId, onChange)
    return () => courseChanged.removeEventListener(courseId, onChange)
  }, [courseId, queries])
  return useQuery({
    queryKey: keyOf(courseId),
    queryFn: async () => unpackSheet(await call(routes.sheet, { params: { courseId } })),
    // Hundreds of thousands of cells are not compared one by one to find what is the same.
    structuralSharing: false,
  })
}
