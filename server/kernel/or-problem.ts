import { HttpProblem } from './problem'

/**
 * What a worker made.
 * @throws HttpProblem with its sentence where it could not: 503 for what it should have been able to, another where what it was given is at fault
 */
export function orProblem<T extends object>(made: T | string, status = 503, where: { field?: string } = {}): T {
  if (typeof made === 'string') throw new HttpProblem(status, made, where)
  return made
}
