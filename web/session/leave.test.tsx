import { page } from '../api/client'
import { vault } from '../saving/vault'

const PLAIN = ['level-table-names', 'level-table-single-keys', 'level-table-appearance']

beforeEach(() => {
  localStorage.clear()
  sessionStorage.clear()
  page.keepKey = btoa('k'.repeat(32))
})

test('when somebody leaves, nothing stays in the browser that can be read: how it looks, and work that is sealed', () => {
  vault.set('level-table-cells c p', '{"mark":17.25}')
  vault.set('level-table-came c p', '{"Essay":61}')
  // As earlier versions left it, and as anything new might.
  localStorage.setItem('level-table-seen c', '{"Essay":61}')
  localStorage.setItem('level-table-steps c p', '[17.25]')
  localStorage.setItem('report c', '{"shown":17.25}')
  localStorage.setItem('level-table-appearance', '{"theme":"dark"}')
  sessionStorage.setItem('wanted page', '/courses/c/students/s')
  vault.leave()
  page.keepKey = null
  const left = Object.keys(localStorage)
  expect(left.filter((name) => !PLAIN.includes(name)).sort()).toEqual(['level-table-came c p', 'level-table-cells c p'])
  expect(left.map((name) => localStorage.getItem(name)).join()).not.toMatch(/17\.25|Essay/)
  expect(sessionStorage).toHaveLength(0)
})
