import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, renderHook } from '@testing-library/react'
import type { ReactNode } from 'react'
import { planQuery } from './plan'
import { useWhenToLoad } from './useWhenToLoad'

/** A plan of so many students, as far as it is looked at here. */
function stop(students: number, assessments: number) {
  const queries = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, gcTime: Infinity } } })
  const plan = { head: { students }, assessments: Array.from({ length: assessments }, (_, i) => ({ id: `a${i}` })) }
  queries.setQueryData<unknown>(planQuery('c').queryKey, plan)
  const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  const nothing = { lightFirst: true, trialOpen: false, isLoaded: false }
  const hook = renderHook(({ lightFirst, ...has }: typeof nothing) => useWhenToLoad('c', lightFirst, has), {
    wrapper,
    initialProps: nothing,
  })
  return { now: () => hook.result.current, given: (has: Partial<typeof nothing>) => hook.rerender({ ...nothing, ...has }) }
}
beforeEach(() => jest.useFakeTimers())
afterEach(() => jest.useRealTimers())
const settle = () => act(() => jest.advanceTimersByTime(300))

test('a small course is fetched once what is on screen has come; a large one waits until somebody asks', () => {
  const [small, large] = [stop(40, 10), stop(12_000, 60)]
  expect(small.now().enabled).toBe(false)
  settle()
  expect([small.now().enabled, large.now().enabled]).toEqual([true, false])
  expect(large.now().waitsFor).toEqual({ students: 12_000, assessments: 60 })
  act(() => large.now().ask())
  expect(large.now()).toMatchObject({ enabled: true, waitsFor: null })
})

test('a trial and a stop that needs the marks do not wait', () => {
  const large = stop(12_000, 60)
  large.given({ lightFirst: false })
  expect(large.now().enabled).toBe(true)
  settle()
  large.given({ trialOpen: true })
  expect(large.now()).toMatchObject({ enabled: true, waitsFor: null })
})

test('what has come for a trial or another stop is kept up to date when these are over', () => {
  const large = stop(12_000, 60)
  settle()
  large.given({ trialOpen: true })
  large.given({ isLoaded: true })
  expect(large.now()).toMatchObject({ enabled: true, waitsFor: null })
})
