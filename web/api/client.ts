import type { z } from 'zod'
import type { Me, Problem, Route } from '#contract'
import { USUAL_SETTINGS } from '#contract/own-settings'
import { doorRoutes } from '#contract/door'

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

/** Whose page this is. What is sent from it is theirs alone, whoever signs in in another window of the same browser meanwhile. */
export const page = {
  personId: null as string | null,
  /** The installation's, by which days begin. */
  timeZone: 'UTC',
  /** How they write numbers and days, and which keys they press. */
  settings: USUAL_SETTINGS,
  /** What seals the work that the browser keeps of them, in base64. */
  keepKey: null as string | null,
  /** Told when the server takes what is sent for nobody's or somebody else's. */
  signedOut: (): void => undefined,
}

/** From now on the page is this person's. */
export function takePage({ id, keepKey, timeZone, settings }: Omit<Me, 'look'>): void {
  Object.assign(page, { personId: id, keepKey, timeZone, settings } satisfies Partial<typeof page>)
}

/** Whether it is still this person's page: what was typed here before must not be sent as somebody else's. */
export const isStill = (personId: string): boolean => page.personId === null || page.personId === personId

/** Headers of a call, with a body in JSON or without one. */
export const headersOf = (json: boolean): Record<string, string> => ({
  ...(json ? { 'content-type': 'application/json' } : {}),
  ...(page.personId === null ? {} : { 'x-signed-in-as': page.personId }),
})

export type Input<R extends Route> = {
  params?: z.input<R['params']>
  body?: z.input<R['body']>
  /** A file that goes as it is, in the place of JSON. */
  file?: Blob
  /** Sent to its end even where the page is left meanwhile; for small bodies. */
  keepalive?: boolean
}

export function addressOf(route: Route, params: Record<string, unknown> = {}): string {
  return route.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(String(params[name])))
}

/** Calls a route of the contract. @throws ProblemError, OfflineError */
export async function call<R extends Route>(route: R, { params, body, file, keepalive }: Input<R> = {}): Promise<z.output<R['response']>> {
  let response: Response
  try {
    response = await fetch(addressOf(route, params as Record<string, unknown>), {
      method: route.method,
      credentials: 'same-origin',
      keepalive,
      headers: file ? { ...headersOf(false), 'content-type': 'application/zip' } : headersOf(body !== undefined),
      ...(file ? { body: file } : body === undefined ? {} : { body: JSON.stringify(body) }),
    })
  } catch {
    throw new OfflineError()
  }
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as z.output<R['response']>
  if (response.status === 401 && page.personId !== null && (route as Route) !== doorRoutes.me) page.signedOut()
  const problem = (await response.json().catch(() => null)) as Problem | null
  throw new ProblemError(
    problem ?? { type: 'about:blank', title: 'Not understood', status: response.status, detail: `The server answered ${response.status}.` },
  )
}

export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))
