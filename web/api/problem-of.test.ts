import { OfflineError, ProblemError } from './client'
import { problemOf } from './problem-of'

const refused = new ProblemError({ type: 'about:blank', title: 'Not yours', status: 403, detail: 'This course is not among yours.' })

test('what was fetched before stays while the server is away; with nothing to show, or refused, the reason is said', () => {
  expect(problemOf({ data: [], error: null }, { data: undefined, error: null })).toBeNull()
  expect(problemOf({ data: [], error: new OfflineError() })).toBeNull()
  expect(problemOf({ data: [], error: null }, { data: undefined, error: new OfflineError() })).toMatch(/cannot be reached/)
  expect(problemOf({ data: [], error: refused })).toBe('This course is not among yours.')
})
