import { useQuery } from '@tanstack/react-query'
import { coursesQuery } from './ahead'

/** What one is in a course; nothing before it is known. */
export const useRole = (courseId: string) => useQuery(coursesQuery).data?.find((c) => c.id === courseId)?.role
