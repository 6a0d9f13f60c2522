/** @jest-environment jsdom */
// In a page in which nothing watches sizes a chart takes its first one.
import { render } from '@testing-library/react'
import type { CourseResult } from '#core/grades'
import { BoundChart } from './BoundChart'

const boundaries = [
  { grade: 'Merit', from: 70 },
  { grade: 'Refer', from: 0 },
]
const PEOPLE = 900
const result = {
  boundaries,
  students: Array.from({ length: PEOPLE }, (_, i) => ({ studentId: `s${i}`, rounded: 50 + (i % 40) })),
} as unknown as CourseResult
const heights = (svg: Element) => [...svg.querySelectorAll('rect[fill="var(--ink)"]')].map((r) => Number(r.getAttribute('height')))

test('very many people stand as columns, also where nothing was rescaled', () => {
  const { container } = render(
    <BoundChart
      result={result}
      plain={null}
      boundaries={boundaries}
      adopted={boundaries}
      zone={null}
      chosen={0}
      disabled={false}
      onChoose={jest.fn()}
      onPull={jest.fn()}
      onLetGo={jest.fn()}
      onPick={jest.fn()}
    />,
  )
  const drawn = heights(container)
  expect(drawn.length).toBeGreaterThan(20)
  expect(Math.min(...drawn)).toBeGreaterThan(0)
})
