import { routes, type Route } from '#contract'
import { z } from 'zod'
import { addressOf, call, type Input } from '../api/client'

/** A request told as data, worked out when its turn has come: it can wait in the browser over a reload. */
export interface Asked<T> {
  route: Route
  input: () => Input<Route>
  /** Told what the server answered, before the next request is worked out. */
  then?: (answer: T) => void
}

/** @param input what goes to the route; a function where it rests on what came before it */
export function ask<R extends Route>(
  route: R,
  input: Input<R> | (() => Input<R>),
  then?: (answer: z.output<R['response']>) => void,
): Asked<z.output<R['response']>> {
  return { route, input: (typeof input === 'function' ? input : () => input) as () => Input<Route>, then }
}

/** A request as it is kept in the browser. */
export const KeptRequest = z.strictObject({
  label: z.string(),
  route: z.string(),
  params: z.record(z.string(), z.string()).optional(),
  body: z.unknown(),
})
export type KeptRequest = z.infer<typeof KeptRequest>

const nameOf = new Map<Route, string>(Object.entries(routes).map(([name, route]) => [route, name]))
const named = new Map<string, Route>(Object.entries(routes))

/** Null where it has a file in it, which a browser does not keep. */
export function asKept(label: string, { route, input }: Asked<unknown>): KeptRequest | null {
  const { params, body, file } = input()
  return file ? null : { label, route: nameOf.get(route)!, params: params as Record<string, string> | undefined, body }
}

/** What was kept, to be sent as it was; null where a newer page does not know it so any more. */
export function fromKept({ route: name, params, body }: KeptRequest): Asked<unknown> | null {
  const route = named.get(name)
  if (!route || !route.body.safeParse(body).success || !route.params.safeParse(params ?? {}).success) return null
  return ask(route, { params, body } as Input<Route>)
}

/** The course that a request is about; null where it is about none. */
export const courseOf = ({ input }: Asked<unknown>): string | null =>
  (input().params as { courseId?: string } | undefined)?.courseId ?? null

/** The row that a request is about, and its version where one is named. */
export function rowOf({ route, input }: Asked<unknown>): { address: string; version: number | null } {
  const { params, body } = input()
  const { version } = (body ?? {}) as { version?: unknown }
  return { address: addressOf(route, params as Record<string, unknown>), version: typeof version === 'number' ? version : null }
}

/** @param version goes in the place of the one that was known when it was asked */
export async function send<T>({ route, input, then }: Asked<T>, version: number | null = null): Promise<T> {
  const { body, ...rest } = input()
  const done = (await call(route, { ...rest, body: version === null ? body : { ...(body as object), version } })) as T
  then?.(done)
  return done
}
