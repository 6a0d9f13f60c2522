import { z } from 'zod'
import type { Role } from './course'

/** Who may call a route: anybody, anyone signed in, who administers the installation, or those with one of the roles in the course. */
export type Access = 'anyone' | 'signed in' | 'admin' | readonly Role[]

type Shape = z.ZodObject
export interface Route<P extends Shape = Shape, B extends z.ZodType = z.ZodType, R extends z.ZodType = z.ZodType> {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'
  /** Express style: `/api/courses/:courseId/table`. */
  path: string
  access: Access
  summary: string
  params: P
  body: B
  response: R
  /** Media type of an answer that is a file or a stream and not JSON. */
  produces?: string
  /** How large its body may be; without a word of it 256 KB and 20,000 values. */
  takes?: 'a little' | 'a list' | 'a file' | 'a package'
  /** How large its answer may grow: what is a lot is written in pieces, and others are answered meanwhile. */
  gives?: 'a lot'
  /** A write that may be done while one looks at a course as somebody else. */
  mayWhileLooking?: true
}

/** Bytes of a data package, which comes as it is (application/zip) and not as JSON. */
export const MOST_PACKAGE_BYTES = 128 * 2 ** 20

/** Bytes and values (numbers, texts, fields) that a body may hold, and how deep it may be nested. */
export const LIMITS = {
  'a little': { bytes: 16 * 2 ** 10, values: 100, depth: 4 },
  usual: { bytes: 256 * 2 ** 10, values: 20_000, depth: 16 },
  'a list': { bytes: 6 * 2 ** 20, values: 600_000, depth: 16 },
  'a file': { bytes: 17 * 2 ** 20, values: 60_000, depth: 4 },
} as const

export const none = z.undefined()
const noParams = z.strictObject({})

export function route<P extends Shape = typeof noParams, B extends z.ZodType = typeof none, R extends z.ZodType = typeof none>(
  definition: Pick<Route, 'method' | 'path' | 'access' | 'summary' | 'produces' | 'takes' | 'gives' | 'mayWhileLooking'> & {
    params?: P
    body?: B
    response?: R
  },
): Route<P, B, R> {
  return { params: noParams as unknown as P, body: none as unknown as B, response: none as unknown as R, ...definition }
}

/** RFC 9457 problem details: a sentence a person can act on, and the field it is about. */
export const Problem = z.strictObject({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  field: z.string().optional(),
  /** With 409: the row as it is now. */
  current: z.unknown().optional(),
})
export type Problem = z.infer<typeof Problem>
