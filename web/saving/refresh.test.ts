import { QueryClient } from '@tanstack/react-query'
import { routes } from '#contract'
import { fetchAnew } from './refresh'

const KEYS = [['plan', 'c'], ['roll', 'c'], ['sharing', 'c'], ['letters', 'c'], ['plan', 'd'], ['courses'], ['people']]
async function staleAfter(written: Parameters<typeof fetchAnew>[1]): Promise<string[]> {
  const queries = new QueryClient()
  for (const key of KEYS) queries.setQueryData(key, {})
  await fetchAnew(queries, written)
  return KEYS.filter((key) => queries.getQueryState(key)!.isInvalidated).map((key) => key.join(' '))
}

test('a write makes stale what its area can change, of its own course alone', async () => {
  expect(await staleAfter({ courseId: 'c', routes: [routes.shareOut] })).toEqual(['plan c', 'sharing c', 'courses'])
  expect(await staleAfter({ courseId: 'c', routes: [routes.shareOut, routes.remind] })).toContain('letters c')
})

test.each([[[routes.editAssessment]], [[null]], [undefined]])(
  'what can change anything, or is not known, makes all of the course stale',
  async (written) => {
    expect(await staleAfter({ courseId: 'c', routes: written })).toEqual(['plan c', 'roll c', 'sharing c', 'letters c', 'courses'])
  },
)

test('what is written to the installation leaves courses as they are fetched', async () => {
  expect(await staleAfter({ courseId: null })).toEqual(['courses', 'people'])
})
