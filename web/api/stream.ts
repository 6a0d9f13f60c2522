import { RollProgress, type Route } from '#contract'
import { addressOf, headersOf, OfflineError, ProblemError } from './client'

/** A file's bytes in base64, as routes that take files want them. */
export function base64Of(file: Blob): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result).replace(/^[^,]*,/, ''))
    reader.onerror = () => failed(new Error('The file could not be read from your disk.'))
    reader.readAsDataURL(file)
  })
}

/**
 * Calls a route that answers line by line while it works.
 * @returns the last line's result
 * @throws ProblemError, OfflineError; an AbortError once the signal is given
 */
export async function callStreamed(
  route: Route,
  params: Record<string, string>,
  body: unknown,
  told: (doing: string) => void,
  signal: AbortSignal,
): Promise<Extract<RollProgress, { tried: unknown }>> {
  const problem = (detail: string, status: number) => new ProblemError({ type: 'about:blank', title: 'Something to mend', status, detail })
  let response: Response
  try {
    response = await fetch(addressOf(route, params), {
      method: route.method,
      credentials: 'same-origin',
      headers: headersOf(true),
      body: JSON.stringify(body),
      signal,
    })
  } catch (e) {
    if (signal.aborted) throw e
    throw new OfflineError()
  }
  if (!response.ok || !response.body) {
    const said = (await response.json().catch(() => null)) as { detail?: string } | null
    throw problem(said?.detail ?? `The server answered ${response.status}.`, response.status)
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { value, done } = await reader.read()
    const lines = (rest + (value ?? '')).split('\n')
    rest = lines.pop()!
    for (const line of lines) {
      const progress = RollProgress.parse(JSON.parse(line))
      if ('tried' in progress) return progress
      if ('problem' in progress) throw problem(progress.problem, 422)
      told(progress.doing)
    }
    if (done) throw problem('The answer broke off. Nothing was changed; try again.', 502)
  }
}
