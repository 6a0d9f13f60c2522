import type { Boundary } from './course'

/** Sets of grades to start from, from the best to the worst; where each begins is the department's to change. */
export const USUAL_GRADES: readonly { name: string; grades: readonly Boundary[] }[] = [
  set('five words', ['Excellent', 85], ['Very good', 70], ['Good', 60], ['Sufficient', 50], ['Not sufficient', 0]),
  set('A to F', ['A', 85], ['B', 75], ['C', 65], ['D', 55], ['E', 50], ['F', 0]),
  set('pass and fail', ['Pass', 50], ['Fail', 0]),
  set('1 to 5, 1 the best', ['1', 87.5], ['2', 75], ['3', 62.5], ['4', 50], ['5', 0]),
  set(
    'percent, in tens',
    ...Array.from({ length: 10 }, (_, i): [string, number] => [i === 0 ? '90 to 100' : `${90 - 10 * i} to ${99 - 10 * i}`, 90 - 10 * i]),
  ),
]

function set(name: string, ...grades: [string, number][]) {
  return { name, grades: grades.map(([grade, from]) => ({ grade, from })) }
}
