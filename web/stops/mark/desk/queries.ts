import { useQuery } from '@tanstack/react-query'
import { routes } from '#contract'
import { call } from '../../../api/client'

export const usePiles = (courseId: string, enabled = true) =>
  useQuery({ queryKey: ['piles', courseId], queryFn: () => call(routes.piles, { params: { courseId } }), enabled })

export const usePile = (courseId: string, assessmentId: string | null) =>
  useQuery({
    queryKey: ['pile', courseId, assessmentId],
    queryFn: () => call(routes.pile, { params: { courseId, assessmentId: assessmentId! } }),
    enabled: assessmentId !== null,
  })

export const deskKey = (courseId: string, assessmentId: string, studentId: string) => ['desk', courseId, assessmentId, studentId] as const

export const useDeskScript = (courseId: string, assessmentId: string, studentId: string | null) =>
  useQuery({
    queryKey: deskKey(courseId, assessmentId, studentId ?? ''),
    queryFn: () => call(routes.deskScript, { params: { courseId, assessmentId, studentId: studentId! } }),
    enabled: studentId !== null,
    // What is on the desk is ahead of the server; it is fetched when the script is opened.
    staleTime: 0,
    gcTime: 0,
  })

export const useKeptComments = (courseId: string) =>
  useQuery({ queryKey: ['kept comments', courseId], queryFn: () => call(routes.keptComments, { params: { courseId } }) })
