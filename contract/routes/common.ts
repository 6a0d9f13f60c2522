import { z } from 'zod'
import { Id } from '../course'

export const inCourse = z.strictObject({ courseId: Id })

/** Who may call, where several routes say the same. */
export const lead = ['lead'] as const

export const staff = ['lead', 'marker', 'external'] as const

export const overseers = ['lead', 'external'] as const

export const ofAssessment = z.strictObject({ courseId: Id, assessmentId: Id })

export const version = z.number().int()

export const onePerson = z.strictObject({ personId: Id })

export const Person = z.strictObject({ id: Id, name: z.string() })

export const Reason = z.string().trim().min(1, 'Say why, in a few words.').max(2000, 'At most 2000 characters.')
