import type { z } from 'zod'
import type { Problem, Route } from '#contract'

/** The server refused; `problem.detail` is a sentence for the person. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}

/** The server could not be reached. */
export class OfflineError extends Error {
  constructor() {
    super('The server cannot be reached. What you did is kept here and sent when it is back.')
  }
}

type Input<R extends Route> = {
  params?: z.input<R['params']>
  body?: z.input<R['body']>
  /** Sent to its end even where the page is left meanwhile; for small bodies. */
  keepalive?: boolean
}

export function addressOf(route: Route, params: Record<string, unknown> = {}): string {
  return route.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])))
}

/** Calls a route of the contract. @throws ProblemError, OfflineError */
export async function call<R extends Route>(route: R, { params, body, keepalive }: Input<R> = {}): Promise<z.output<R['response']>> {
  let response: Response
  try {
    response = await fetch(addressOf(route, params as Record<string, unknown>), {
      method: route.method,
      credentials: 'same-origin',
      keepalive,
      ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    })
  } catch {
    throw new OfflineError()
  }
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as z.output<R['response']>
  const problem = (await response.json().catch(() => null)) as Problem | null
  throw new ProblemError(
    problem ?? { type: 'about:blank', title: 'Not understood', status: response.status, detail: `The server answered ${response.status}.` },
  )
}

export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))
