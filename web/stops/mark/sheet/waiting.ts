import { CellWrite } from '#contract'
import { z } from 'zod'
import { vault } from '../../../saving/vault'
import { keepFitting } from '../../../saving/keep-fitting'

/**
 * A person's cells that have not reached the server yet, kept in the browser so that neither a reload nor a lost connection takes
 * them; whoever signs in there next must not send them as their own.
 */
const Kept = z.array(CellWrite)

const keyOf = (courseId: string, personId: string) => `level-table-cells ${courseId} ${personId}`

export function keptCells(courseId: string, personId: string): CellWrite[] {
  const kept = vault.get(keyOf(courseId, personId))
  if (kept === null) return []
  try {
    return Kept.parse(JSON.parse(kept))
  } catch {
    return []
  }
}

/** @returns whether there was room for all of them */
export const keepCells = (courseId: string, personId: string, cells: readonly CellWrite[]): boolean =>
  keepFitting(keyOf(courseId, personId), cells) === cells.length
