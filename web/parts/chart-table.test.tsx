import { screen } from '@testing-library/react'
import { beforeAndAfter } from '../stops/rescale/before-and-after'
import { inPage } from '../testing/in-page'
import { ChartTable } from './ChartTable'
import { inSteps } from './in-steps'

test('a chart’s table is made once it is opened, each row named by its first cell', () => {
  const rows = jest.fn(() => [['0 to 10', '3']])
  inPage(<ChartTable heads={['marks', 'students']} rows={rows} />)
  const details = document.querySelector('details')!
  expect(rows).not.toHaveBeenCalled()
  details.open = true
  details.dispatchEvent(new Event('toggle'))
  return screen.findByRole('row', { name: '0 to 10 3' }).then(() => expect(screen.getByRole('rowheader').textContent).toBe('0 to 10'))
})

test('dots are counted in steps from the lowest up, without the empty ones', () =>
  expect(
    inSteps(
      [
        { x: 42, y: 50 },
        { x: 18, y: 10 },
        { x: 40, y: 61 },
      ],
      10,
    ),
  ).toEqual([
    ['10 to 20', '1', '10.0'],
    ['40 to 50', '2', '55.5'],
  ]))

test('marks before and after stand in the same steps, which go as far as what comes out', () =>
  expect(beforeAndAfter([1, 4, 4], [3, 6, 6], 5).filter(([, was, is]) => was !== '0' || is !== '0')).toEqual([
    ['1 to 1.25', '1', '0'],
    ['3 to 3.25', '0', '1'],
    ['4 to 4.25', '2', '0'],
    ['5.75 to 6', '0', '2'],
  ]))
