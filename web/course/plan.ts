import { queryOptions, useQuery } from '@tanstack/react-query'
import { routes, unpackRoll } from '#contract'
import { call } from '../api/client'

/** The plan and the placements of a course as decided so far. */
export const planQuery = (courseId: string) =>
  queryOptions({ queryKey: ['plan', courseId], queryFn: () => call(routes.plan, { params: { courseId } }) })

/** Sections and students of a course. */
export const rollQuery = (courseId: string) =>
  queryOptions({ queryKey: ['roll', courseId], queryFn: async () => unpackRoll(await call(routes.roll, { params: { courseId } })) })

export const usePlanQuery = (courseId: string, enabled = true) => useQuery({ ...planQuery(courseId), enabled })
export const useRollQuery = (courseId: string, enabled = true) => useQuery({ ...rollQuery(courseId), enabled })
