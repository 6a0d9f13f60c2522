import type { Page } from '@playwright/test'
import { COURSE, EXTERNAL, LEAD, MARKER, expect, ownMenu, signOut, test } from './level-table'

/** What stays in a browser when its person has left: how pages look and are used, which says nothing of anybody. */
const PREFERENCES = ['level-table-names', 'level-table-single-keys', 'level-table-appearance']

/** Everything that the browser keeps for the page, as text. */
const kept = (page: Page) =>
  page.evaluate(async () => ({
    local: Object.entries(localStorage) as [string, string][],
    session: Object.entries(sessionStorage) as [string, string][],
    cookies: document.cookie,
    databases: (await indexedDB.databases()).map((d) => d.name),
    caches: await caches.keys(),
  }))

const PEOPLE: [role: string, name: string, views: string[]][] = [
  ['lead', LEAD, [`${COURSE}/mark`, `${COURSE}/bound`, `${COURSE}/confirm`]],
  ['marker', MARKER, [`${COURSE}/mark`, `${COURSE}/mark/desk`]],
  ['external', EXTERNAL, [`${COURSE}/compare`, `${COURSE}/record`]],
  ['student', 'student', [COURSE]],
  ['administrator', 'Orsolya Tamm', ['/installation/people', '/installation/courses', '/installation/audit']],
]

for (const [role, name, views] of PEOPLE)
  test(`signing out (${role}): another tab is left at once, and nothing that can be read stays in the browser`, async ({
    page,
    served,
  }) => {
    const { people } = (await (await page.request.get(`${served.address}/api/sign-on`)).json()) as {
      people: { name: string; does: string }[]
    }
    const called = people.find((p) => p.name === name || p.does.startsWith(name))!.name
    await page.goto('/')
    await page.getByRole('button', { name: called }).click()
    await ownMenu(page, called).waitFor()
    for (const view of views) {
      await page.goto(view)
      await page.getByRole('heading', { level: 1 }).first().waitFor()
    }
    const other = await page.context().newPage()
    await other.goto(views[0]!)
    await other.getByRole('heading', { level: 1 }).first().waitFor()
    await signOut(page, called)
    await expect(other.getByRole('heading', { name: 'Sign in' })).toBeVisible()
    for (const tab of [page, other]) {
      const { local, session, ...rest } = await kept(tab)
      expect(rest).toEqual({ cookies: '', databases: [], caches: [] })
      expect(session).toEqual([])
      for (const [key, value] of local.filter(([key]) => !PREFERENCES.includes(key)))
        // Sealed: bytes in base64, and no text that a person or a program could make anything of.
        expect([key, /^[A-Za-z0-9+/]{40,}={0,2}$/.test(value)]).toEqual([key, true])
    }
  })
