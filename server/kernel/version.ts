import { HttpProblem } from './problem'

/**
 * Holds a write to the version that it was made over.
 * @param changed what happened meanwhile, in a sentence
 * @param current the row as it is now, with its version, so that the page can show both
 * @throws HttpProblem 409
 */
export function madeOver<Row extends { version: number }>(version: number, current: Row, changed: string): void {
  if (current.version !== version) throw new HttpProblem(409, changed, { current })
}
