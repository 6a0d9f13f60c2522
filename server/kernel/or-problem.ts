import { HttpProblem } from './problem'

/** What a worker made. @throws HttpProblem 503 with its sentence where it could not */
export function orProblem<T extends object>(made: T | string): T {
  if (typeof made === 'string') throw new HttpProblem(503, made)
  return made
}
