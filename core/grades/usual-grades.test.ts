import { checkBoundaries } from './check-boundaries'
import { USUAL_GRADES } from './usual-grades'

test.each(USUAL_GRADES.map((s) => [s.name, s.grades] as const))('%s can be in force as it stands', (_, grades) => {
  expect(checkBoundaries([...grades])).toEqual([])
})
