import { doorRoutes } from '#contract/door'
import { call } from '../api/client'

const WANTED = 'wanted page'

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
