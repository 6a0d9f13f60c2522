import { isLoopback } from './loopback'

test.each([
  ['127.0.0.1', true],
  ['127.8.0.1', true],
  ['localhost', true],
  ['::1', true],
  ['0.0.0.0', false],
  ['10.0.0.5', false],
  ['marks.example.org', false],
  ['::', false],
])('%s is reached from this machine alone: %s', (host, expected) => expect(isLoopback(host)).toBe(expected))
