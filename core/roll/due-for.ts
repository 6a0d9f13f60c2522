import type { Day } from './days'
import { sectionOn, type Stay } from './stays'

/**
 * The day an assessment is due for a student: that of the section they were in on it, else that of their section now.
 * @param placements those of the one assessment
 * @returns null where no day is set for them
 */
export function dueFor(
  placements: readonly { sectionId: string; due: Day | null }[],
  stays: readonly Stay[],
  sectionId: string,
): Day | null {
  const there = placements.find((p) => p.due !== null && sectionOn(stays, p.due) === p.sectionId)
  return (there ?? placements.find((p) => p.sectionId === sectionId))?.due ?? null
}
