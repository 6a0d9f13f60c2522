import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { routes, type SheetInColumns } from '#contract'
import { call } from '../../../api/client'
import { courseChanged } from '../../../frame/events'
import { cellsOf } from './cells'

const keyOf = (courseId: string) => ['sheet', courseId] as const

/** The mark sheet; what others write to it is put in as it comes. */
export function useSheet(courseId: string) {
  const queries = useQueryClient()
  useEffect(() => {
    const takeIn = async () => {
      const sheet = queries.getQueryData<SheetInColumns>(keyOf(courseId))
      const fetchAnew = () => queries.invalidateQueries({ queryKey: keyOf(courseId) })
      if (!sheet) return fetchAnew()
      try {
        const { version, cells } = await call(routes.sheetSince, { params: { courseId, version: sheet.version } })
        if (cells === null) return await fetchAnew()
        cellsOf(sheet).put(cells)
        queries.setQueryData<SheetInColumns>(keyOf(courseId), (now) => (now?.cells === sheet.cells ? { ...now, version } : now))
      } catch {
        await fetchAnew()
      }
    }
    const onChange = (e: Event) => {
      e.preventDefault()
      void takeIn()
    }
    courseChanged.addEventListener(courseId, onChange)
    return () => courseChanged.removeEventListener(courseId, onChange)
  }, [courseId, queries])
  return useQuery({
    queryKey: keyOf(courseId),
    queryFn: () => call(routes.sheet, { params: { courseId } }),
    // Hundreds of thousands of cells are not compared one by one to find what is the same.
    structuralSharing: false,
  })
}
