import { CellWrite } from '#contract'
import { z } from 'zod'

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

export function keepCells(courseId: string, cells: CellWrite[]): void {
  if (cells.length === 0) localStorage.removeItem(keyOf(courseId))
  else localStorage.setItem(keyOf(courseId), JSON.stringify(cells))
}
