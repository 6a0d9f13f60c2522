import type { ErrorRequestHandler } from 'express'
import { z } from 'zod'
import type { Problem } from '#contract'
import { isDiskFull } from './db/disk'
import { isOfSqlite } from './db/of-sqlite'

/** An answer that says what went wrong, in a sentence a person can act on (RFC 9457). */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly more: { field?: string; current?: unknown; retryAfter?: number } = {},
  ) {
    super(detail)
  }
}

const TITLES: Record<number, string> = {
  400: 'Not understood',
  401: 'Not signed in',
  403: 'Not yours to do',
  404: 'Not here',
  409: 'Changed meanwhile',
  413: 'Too large',
  415: 'Not in this form',
  421: 'Not under this address',
  422: 'Something to mend',
  429: 'Too often',
  500: 'Our mistake',
  503: 'Out of reach',
  507: 'The disk is full',
}

export const problemBody = (status: number, detail: string, more: HttpProblem['more'] = {}): Problem => ({
  type: 'about:blank',
  title: TITLES[status] ?? 'Refused',
  status,
  detail,
  ...(more.field === undefined ? {} : { field: more.field }),
  ...(more.current === undefined ? {} : { current: more.current }),
})

export const tooLarge = (bytes: number): HttpProblem =>
  new HttpProblem(413, `That is over ${bytes >= 2 ** 20 ? `${bytes / 2 ** 20} MB` : `${bytes / 2 ** 10} KB`}. Bring it in in parts.`)

/** The first thing a schema refused, as a sentence with its field. */
export function fromZod(error: z.ZodError): HttpProblem {
  const issue = error.issues[0]!
  const field = issue.path.join('.')
  const detail = issue.code === 'unrecognized_keys' ? `Unknown field: ${issue.keys.join(', ')}.` : issue.message
  return new HttpProblem(422, field ? `${detail} (${field})` : detail, field ? { field } : {})
}

export const problemHandler: ErrorRequestHandler = (error, req, res, next) => {
  if (res.headersSent) return next(error)
  const problem = toProblem(error)
  if (problem.status >= 500) (req as { log?: { error: (o: object, m: string) => void } }).log?.error({ err: error }, 'request failed')
  if (problem.more.retryAfter !== undefined) res.set('retry-after', String(problem.more.retryAfter))
  res
    .status(problem.status)
    .type('application/problem+json')
    .send(JSON.stringify(problemBody(problem.status, problem.detail, problem.more)))
}

function toProblem(error: unknown): HttpProblem {
  if (error instanceof HttpProblem) return error
  if (error instanceof z.ZodError) return fromZod(error)
  const type = (error as { type?: string }).type
  if (type === 'entity.too.large') return tooLarge((error as { limit: number }).limit)
  if (type === 'encoding.unsupported') return new HttpProblem(415, 'Send it as it is: packed requests are not taken.')
  if (type === 'request.aborted' || type === 'request.size.invalid') return new HttpProblem(400, 'The request did not arrive whole.')
  if (error instanceof URIError) return new HttpProblem(400, 'The address is not well formed.')
  if (isOfSqlite(error) && error.code.startsWith('SQLITE_BUSY'))
    return new HttpProblem(
      503,
      'The database is being written at length (a backup is restored, a course made nameless). What you typed is kept in this page and sent again by itself.',
    )
  if (isDiskFull(error))
    return new HttpProblem(
      507,
      'The server’s disk is full, so nothing was saved. What you typed is kept in this page and sent again by itself; tell the people who run this installation.',
    )
  return new HttpProblem(
    500,
    'Something went wrong on the server. Nothing was changed; try again, and tell whoever runs it if it stays so.',
  )
}
