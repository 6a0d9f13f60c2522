import { useQuery } from '@tanstack/react-query'
import { routes } from '#contract'
import { call } from '../api/client'

/** The plan and the placements of a course as decided so far. */
export const usePlanQuery = (courseId: string, enabled = true) =>
  useQuery({ queryKey: ['plan', courseId], queryFn: () => call(routes.plan, { params: { courseId } }), enabled })

/** Sections and students of a course. */
export const useRollQuery = (courseId: string, enabled = true) =>
  useQuery({ queryKey: ['roll', courseId], queryFn: () => call(routes.roll, { params: { courseId } }), enabled })
