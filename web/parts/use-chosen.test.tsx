import { act, renderHook } from '@testing-library/react'
import { useChosen } from './useChosen'

const show = (ids: string[], scope = '', first: string | null = null) =>
  renderHook(({ ids, scope }) => useChosen(ids, { scope, first }), { initialProps: { ids, scope } })

test('what is chosen stays chosen as the list is ordered anew or grows before it', () => {
  const { result, rerender } = show(['a', 'b'])
  expect(result.current).toMatchObject({ id: 'a', at: 0 })
  rerender({ ids: ['new', 'b', 'a'], scope: '' })
  expect(result.current).toMatchObject({ id: 'a', at: 2, gone: false })
})

test('gone from the list, nothing takes its place until somebody chooses', () => {
  const { result, rerender } = show(['a', 'b'], '', 'b')
  rerender({ ids: ['a', 'c'], scope: '' })
  expect(result.current).toMatchObject({ id: null, at: -1, gone: true })
  act(() => result.current.choose('c'))
  expect(result.current).toMatchObject({ id: 'c', at: 1, gone: false })
})

test('back in the list, it is chosen again; narrowed otherwise by its person, the list begins with its first', () => {
  const { result, rerender } = show(['a', 'b'])
  rerender({ ids: ['b'], scope: '' })
  rerender({ ids: ['b', 'a'], scope: '' })
  expect(result.current).toMatchObject({ id: 'a', at: 1 })
  rerender({ ids: ['d', 'e'], scope: 'over tolerance' })
  expect(result.current).toMatchObject({ id: 'd', gone: false })
})
