import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { cleanup, configure, render } from '@testing-library/react'
import { userEvent } from '@testing-library/user-event'
import type { ReactElement } from 'react'
import { MemoryRouter } from 'react-router'
import { z } from 'zod'
import type { Route } from '#contract'
import { addressOf, page as whose } from '../api/client'
import { HeadTools } from '../shell/HeadTools'
import { KeysProvider } from '../settings/keys'
import { NamesProvider } from '../settings/names'
import { doWhatWaits } from '../saving/after-drawing'
import { endOutboxes } from '../saving/live-outboxes'
import { forgetKept } from '../saving/useKept'
import { SavedProvider } from '../saving/saved'
import { UndoProvider } from '../saving/undo'
import { WritesProvider } from '../saving/writes'

// What was looked for says enough; the whole page beside it does not. A slow machine fails nothing: a test that waits in vain ends late.
configure({
  asyncUtilTimeout: 20_000,
  getElementError: (message) => new Error(message?.split('\n')[0] ?? 'not found'),
})

// What React has to say of the page, elements in the wrong place for one, is a fault of it.
const complaints: string[] = []
beforeEach(() => {
  // Somebody is signed in, so that the browser can keep what is theirs.
  whose.keepKey ??= btoa('k'.repeat(32))
  endOutboxes()
  forgetKept()
  // What an earlier test left to be kept is none of this one’s.
  doWhatWaits()
  complaints.length = 0
  jest.spyOn(console, 'error').mockImplementation((...words) => {
    const said = words.map(String).join(' ').slice(0, 500)
    // What comes after the last thing that a test waits for is not about the page.
    if (!said.includes('not wrapped in act')) complaints.push(said)
  })
})
afterEach(() => expect(complaints).toEqual([]))

/** As the browser does it: the page ends, and what it kept stays. */
export function reload(): void {
  cleanup()
  doWhatWaits()
  endOutboxes()
}

interface InPage {
  /** Address of the page. */
  address?: string
  /** What was fetched before. */
  known?: (readonly [key: readonly unknown[], data: unknown])[]
}

/** What the frame gives every screen, with saved state, undo and redo in sight; nothing is cached beyond the test. */
export function inPage(screen: ReactElement, { address = '/courses/c/mark', known = [] }: InPage = {}) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, gcTime: Infinity, staleTime: Infinity } } })
  for (const [key, data] of known) queries.setQueryData(key, data)
  const user = userEvent.setup()
  const page = (shown: ReactElement) => (
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={[address]}>
        <KeysProvider>
          <NamesProvider>
            <SavedProvider>
              <UndoProvider>
                <HeadTools />
                <WritesProvider courseId="c">{shown}</WritesProvider>
              </UndoProvider>
            </SavedProvider>
          </NamesProvider>
        </KeysProvider>
      </MemoryRouter>
    </QueryClientProvider>
  )
  const view = render(page(screen))
  return { user, queries, show: (next: ReactElement) => view.rerender(page(next)) }
}

export interface Sent {
  method: string
  address: string
  body: unknown
}

type Answer = (body: never, address: string) => unknown

/** Refuses as the server does. */
export class Refuses {
  constructor(
    readonly status: number,
    readonly detail: string,
    /** The row as it is now. */
    readonly current?: unknown,
    /** The field that is at fault. */
    readonly field?: string,
  ) {}
}

/** What the contract has to say against what is sent or answered; null where it fits. */
function misfit(what: string, route: Route, schema: z.ZodType, value: unknown): string | null {
  const { error } = schema.safeParse(value === null && !schema.safeParse(null).success ? undefined : value)
  return error
    ? `${what} to ${route.method} ${route.path}: ${error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join('; ')}`.slice(0, 500)
    : null
}

/** Stands for the server, by its contract: answers the routes given, refuses every other; what was asked of it is kept in order. */
export function serverAnswers(given: readonly (readonly [Route, Answer])[]) {
  const answers = [...given]
  const server = {
    sent: [] as Sent[],
    away: false,
    /** Answers one more route. */
    answer: (route: Route, answer: Answer) => void answers.push([route, answer]),
  }
  const patternOf = (r: Route) => new RegExp(`^${addressOf(r).replace(/:\w+|%3A\w+|undefined/g, '[^/]+')}$`)
  global.fetch = async (input, init) => {
    if (server.away) throw new TypeError('Failed to fetch')
    const [address, method] = [String(input), init?.method ?? 'GET']
    const body: unknown = typeof init?.body === 'string' ? JSON.parse(init.body) : undefined
    if (method !== 'GET') server.sent.push({ method, address, body })
    const found = answers.find(([r]) => r.method === method && patternOf(r).test(address))
    const taken = found && init?.body instanceof Blob === false ? misfit('sent', found[0], found[0].body, body) : null
    if (taken) complaints.push(taken)
    const answer = found ? await found[1](body as never, address) : new Refuses(404, `Nobody answers ${method} ${address} here.`)
    const refused = answer instanceof Refuses
    const given = found && !refused && !found[0].produces ? misfit('answered', found[0], found[0].response, answer ?? undefined) : null
    if (given) complaints.push(given)
    const sent = refused
      ? {
          type: 'about:blank',
          title: 'Refused',
          status: answer.status,
          detail: answer.detail,
          current: answer.current,
          ...(answer.field && { field: answer.field }),
        }
      : (answer ?? null)
    const empty = found && !refused && (answer ?? undefined) === undefined && found[0].response.safeParse(undefined).success
    return { ok: !refused, status: refused ? answer.status : empty ? 204 : 200, json: async () => structuredClone(sent) } as Response
  }
  return server
}
