import { addressInLog } from './log-address'

test.each([
  ['/api/courses/c/table', '/api/courses/c/table'],
  ['/signed-on?code=secret&state=x', '/signed-on'],
  ['/api/calendars/bG9uZy1wcml2YXRlLXRva2Vu/due.ics', '/api/calendars/…/due.ics'],
])('%s stands in the log as %s', (url, shown) => {
  expect(addressInLog(url)).toBe(shown)
})
