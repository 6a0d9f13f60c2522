import { routes } from '#contract'
import { addressOf, call, messageOf, OfflineError, page, ProblemError } from './client'
import { callStreamed } from './stream'

const server = jest.spyOn(globalThis, 'fetch')
afterEach(() => server.mockReset())
afterAll(() => server.mockRestore())
const answers = (status: number, body?: unknown) =>
  server.mockResolvedValueOnce(new Response(body === undefined ? null : JSON.stringify(body), { status }))
const params = { courseId: 'c/1', version: 3 }

test('an address has its parameters in place, whatever is in them', () =>
  expect(addressOf(routes.sheetSince, params)).toBe('/api/courses/c%2F1/sheet/since/3'))

test('a call sends its body as JSON and gives back what came', async () => {
  answers(200, { version: 4, cells: null })
  expect(await call(routes.sheetSince, { params })).toEqual({ version: 4, cells: null })
  expect(server.mock.calls[0]![1]).toMatchObject({ method: 'GET', credentials: 'same-origin' })
  answers(204)
  expect(await call(routes.keepComment, { body: { words: 'Date it.' } })).toBeUndefined()
  expect(server.mock.calls[1]![1]).toMatchObject({ method: 'POST', body: '{"words":"Date it."}' })
})

test('a refusal is said in the server’s words, or by its number where it has none; no server is said to be none', async () => {
  answers(409, { type: 'about:blank', title: 'No', status: 409, detail: 'Somebody changed this meanwhile.' })
  await expect(call(routes.sheetSince, { params })).rejects.toThrow(
    new ProblemError({ detail: 'Somebody changed this meanwhile.' } as never),
  )
  server.mockResolvedValueOnce(new Response('<html>', { status: 502 }))
  await expect(call(routes.sheetSince, { params })).rejects.toThrow('The server answered 502.')
  server.mockRejectedValueOnce(new TypeError('failed'))
  await expect(call(routes.sheetSince, { params })).rejects.toBeInstanceOf(OfflineError)
  expect(messageOf('as it is')).toBe('as it is')
})

test('what is sent names whose page it is; where that is nobody any more the page is told, once it asks who is', async () => {
  page.personId = 'ines'
  page.signedOut = jest.fn()
  const refused = { type: 'about:blank', title: 'No', status: 401, detail: 'Somebody else has signed in.' }
  answers(401, refused)
  await expect(call(routes.keepComment, { body: { words: 'Date it.' } })).rejects.toThrow('Somebody else has signed in.')
  expect(server.mock.calls[0]![1]!.headers).toEqual({ 'content-type': 'application/json', 'x-signed-in-as': 'ines' })
  expect(page.signedOut).toHaveBeenCalledTimes(1)
  answers(401, refused)
  await expect(call(routes.me)).rejects.toBeInstanceOf(ProblemError)
  expect(page.signedOut).toHaveBeenCalledTimes(1)
  page.personId = null
})

describe('an answer line by line', () => {
  const streamed = (...chunks: string[]) =>
    server.mockResolvedValueOnce(
      new Response(
        new ReadableStream<Uint8Array>({
          start(to) {
            for (const chunk of chunks) to.enqueue(new TextEncoder().encode(chunk))
            to.close()
          },
        }),
      ),
    )
  const ask = (told: string[] = [], signal = new AbortController().signal) =>
    callStreamed(routes.tryRoll, { courseId: 'c' }, {}, (doing) => told.push(doing), signal)

  test('lines broken over chunks are put together; what goes on is told, a problem is thrown', async () => {
    const told: string[] = []
    streamed('{"doing":"reading', ' the file"}\n{"doing":"comparing"}\n', '{"problem":"Line 3 has no name."}\n')
    await expect(ask(told)).rejects.toThrow('Line 3 has no name.')
    expect(told).toEqual(['reading the file', 'comparing'])
  })
  test('an answer that breaks off says that nothing was changed', async () => {
    streamed('{"doing":"reading the file"}\n')
    await expect(ask()).rejects.toThrow('The answer broke off. Nothing was changed; try again.')
  })
  test('stopped by hand it is no lost connection', async () => {
    const stop = new AbortController()
    stop.abort()
    const aborted = new DOMException('stopped', 'AbortError')
    server.mockRejectedValueOnce(aborted)
    await expect(ask([], stop.signal)).rejects.toBe(aborted)
    server.mockRejectedValueOnce(new TypeError('failed'))
    await expect(ask()).rejects.toBeInstanceOf(OfflineError)
  })
})
