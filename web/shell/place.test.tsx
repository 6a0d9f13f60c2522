import { screen, waitFor } from '@testing-library/react'
import { useEffect, useState } from 'react'
import { Link, Route, Routes } from 'react-router'
import { routes } from '#contract'
import { courseHead } from '../testing/data'
import { inPage, serverAnswers } from '../testing/in-page'
import { Place, titleOf } from './Place'

const COURSES = [{ id: 'c', code: 'CFS 214' }]
test.each([
  ['/courses/c/reconcile', '', 'Reconcile · CFS 214 · Level Table'],
  ['/courses/c/reconcile', '?part=look-next', 'Look next · Reconcile · CFS 214 · Level Table'],
  ['/courses/c/agree/standings', '', 'Standings · Agree · CFS 214 · Level Table'],
  // Nobody is named in it.
  ['/courses/c/students/ada', '', 'A student · CFS 214 · Level Table'],
  ['/courses/other/record', '', 'The record · Level Table'],
  ['/courses', '', 'Your courses · Level Table'],
  ['/account', '', 'Your account · Level Table'],
  ['/', '', 'Level Table'],
])('the title of %s%s is %s', (pathname, search, title) => expect(titleOf(pathname, search, COURSES)).toBe(title))

/** A page whose heading comes a moment after it. */
function Later() {
  const [come, setCome] = useState(false)
  useEffect(() => setCome(true), [])
  return come ? <h1>What is still open</h1> : <p>Working it out…</p>
}

test('another stop has the focus on its heading once it has come, unless it puts it elsewhere; another part leaves it where it is', async () => {
  serverAnswers([[routes.courses, () => [{ ...courseHead('lead'), id: 'c', code: 'CFS 214' }]]])
  const { user } = inPage(
    <>
      <Place />
      <Link to="/courses/c/compare">Compare</Link>
      <Link to="/courses/c/compare?rows=markers">markers</Link>
      <Link to="/courses/c/confirm">Confirm</Link>
      <Link to="/courses/c/rescale">Rescale</Link>
      <main>
        <Routes>
          <Route path="/courses/c/mark" element={<h1>The mark sheet</h1>} />
          <Route path="/courses/c/compare" element={<h1>Are the sections on one level?</h1>} />
          <Route path="/courses/c/confirm" element={<Later />} />
          <Route
            path="/courses/c/rescale"
            element={
              <>
                <h1>Rescale</h1>
                <input aria-label="find" autoFocus />
              </>
            }
          />
        </Routes>
      </main>
    </>,
    { address: '/courses/c/mark' },
  )
  await waitFor(() => expect(document.title).toBe('Mark · CFS 214 · Level Table'))
  expect(document.activeElement).toBe(document.body)
  await user.click(screen.getByRole('link', { name: 'Compare' }))
  expect(document.activeElement).toBe(screen.getByRole('heading', { name: 'Are the sections on one level?' }))
  await user.click(screen.getByRole('link', { name: 'markers' }))
  expect(document.activeElement?.textContent).toBe('markers')
  await user.click(screen.getByRole('link', { name: 'Confirm' }))
  await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('heading', { name: 'What is still open' })))
  await user.click(screen.getByRole('link', { name: 'Rescale' }))
  expect(document.activeElement).toBe(screen.getByLabelText('find'))
  await user.click(screen.getByRole('link', { name: 'To the page' }))
  expect(document.activeElement).toBe(screen.getByRole('heading', { name: 'Rescale' }))
})
