import { render } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe as figuresOf } from '#core/compare'
import { Ridge } from './Ridge'

const people = [
  { id: 'ada', value: 40 },
  { id: 'bo', value: 60 },
  { id: 'cy', value: 60.01 },
  { id: 'di', value: 80 },
]
const ridge = (onPick = jest.fn(), of = people) => {
  const { container } = render(
    <Ridge
      id="east"
      people={of}
      figures={figuresOf(of.map((p) => p.value))}
      from={0}
      to={100}
      tallest={0.05}
      level={50}
      passMark={50}
      chosen={false}
      onPick={onPick}
    />,
  )
  const all = (what: string) => [...container.querySelectorAll(what)]
  return { dots: all('circle'), lines: all('line'), path: all('path')[0]! }
}

test('everything stands at its part of the width; two whom no eye could tell apart are one dot, and who fails is in brick', () => {
  const { dots, lines } = ridge()
  expect(dots.map((d) => [d.getAttribute('cx'), d.getAttribute('fill')])).toEqual([
    ['40%', 'var(--brick)'],
    ['60.01%', 'var(--ink)'],
    ['80%', 'var(--ink)'],
  ])
  expect(lines.map((l) => [l.getAttribute('x1'), l.getAttribute('x2')])).toEqual([
    ['50%', '50%'],
    ['55%', '65.0075%'],
    ['60.005%', '60.005%'],
  ])
})

test('a dot that is pressed says whose row it is in, and where', async () => {
  const onPick = jest.fn()
  await userEvent.setup().click(ridge(onPick).dots[2]!)
  expect(onPick).toHaveBeenCalledWith('east', 80)
})

test('with nobody in it there is a row with nothing but the line to hold it against', () => {
  const { dots, lines, path } = ridge(undefined, [])
  expect([dots, lines]).toMatchObject([{ length: 0 }, { length: 1 }])
  expect(path.getAttribute('d')).not.toContain('NaN')
})
