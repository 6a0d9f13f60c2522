import { CellWrite } from '#contract'
import { z } from 'zod'
import { keepFitting } from '../keep-fitting'

/** Cells that have not reached the server yet, kept in the browser so that neither a reload nor a lost connection takes them. */
const Kept = z.array(CellWrite)

const keyOf = (courseId: string) => `level-table-cells ${courseId}`

export function keptCells(courseId: string): CellWrite[] {
  const kept = localStorage.getItem(keyOf(courseId))
  if (kept === null) return []
  try {
    return Kept.parse(JSON.parse(kept))
  } catch {
    return []
  }
}

/** @returns whether there was room for all of them */
export const keepCells = (courseId: string, cells: readonly CellWrite[]): boolean => keepFitting(keyOf(courseId), cells) === cells.length
