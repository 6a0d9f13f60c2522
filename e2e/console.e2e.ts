import { comeIn, COURSE, EXTERNAL, expect, LEAD, MARKER, signOut, test } from './level-table'
import { listening } from './listening'

test('the browser has nothing to complain of: at the door, for a lead, a marker at the desk, an external and a student', async ({
  page,
}) => {
  const said = await listening(page)
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  // The lead's pages are listened to where they are checked. What is still asked for when one leaves is refused, and that is said.
  await comeIn(page, LEAD)
  await page.goto(`${COURSE}/set-out`)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.waitForLoadState('networkidle')
  await signOut(page, LEAD)
  await comeIn(page, MARKER)
  for (const view of ['mark', 'mark/desk', 'mark/sheet', 'agree/exemplars']) {
    await page.goto(`${COURSE}/${view}`)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await page.waitForLoadState('networkidle')
  }
  await signOut(page, MARKER)
  await comeIn(page, EXTERNAL)
  await page.goto(`${COURSE}/confirm`)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.waitForLoadState('networkidle')
  await signOut(page, EXTERNAL)
  await page.getByRole('button', { name: /student: sees own work/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  expect(said).toEqual([])
})
