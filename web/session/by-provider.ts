import { doorRoutes } from '#contract/door'
import { call } from '../api/client'

const WANTED = 'wanted page'

/** How long a provider may take; ms. */
const PATIENCE_MS = 25_000

/** @throws Error with a sentence where a provider has not answered for so long that nobody should wait on */
export function withinTime<T>(work: Promise<T>, provider = 'The sign-on provider'): Promise<T> {
  let enough: ReturnType<typeof setTimeout> | undefined
  const late = new Promise<never>((_, failed) => {
    enough = setTimeout(
      () =>
        failed(
          new Error(
            `${provider} has not answered for ${PATIENCE_MS / 1000} seconds. Try again, or ask the people who run this installation.`,
          ),
        ),
      PATIENCE_MS,
    )
  })
  return Promise.race([work, late]).finally(() => clearTimeout(enough))
}

/** Sends the browser to the provider; it comes back to the page that was asked for. */
export async function goToProvider(): Promise<void> {
  const { to } = await call(doorRoutes.beginSignOn)
  sessionStorage.setItem(WANTED, location.pathname === '/signed-on' ? '/' : location.pathname)
  location.assign(to)
}

/** The page that was asked for before; once. */
export function wantedPage(): string {
  const page = sessionStorage.getItem(WANTED) ?? '/'
  sessionStorage.removeItem(WANTED)
  return page
}
