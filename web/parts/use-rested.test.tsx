import { act, renderHook } from '@testing-library/react'
import { useRested } from './useRested'

test('what is there at first is taken at once, what comes after it once one stays there', () => {
  jest.useFakeTimers()
  const { result, rerender } = renderHook(useRested<string>, { initialProps: 'ada' })
  expect(result.current).toBe('ada')
  rerender('bo')
  act(() => jest.advanceTimersByTime(100))
  rerender('cy')
  act(() => jest.advanceTimersByTime(100))
  expect(result.current).toBe('ada')
  act(() => jest.advanceTimersByTime(100))
  expect(result.current).toBe('cy')
  jest.useRealTimers()
})
