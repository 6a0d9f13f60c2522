import { group } from 'd3-array'
import type { Day } from './days'
import { sectionOn, type Stay } from './stays'

/**
 * The placement of an assessment that is a student's: that of the section they were in on the day it was due, else that of their
 * section now.
 * @param placements those of the one assessment
 * @returns undefined where none is theirs
 */
export function placementFor<P extends { sectionId: string; due: Day | null }>(
  placements: readonly P[],
  stays: readonly Stay[],
  sectionId: string,
): P | undefined {
  const there = placements.find((p) => p.due !== null && sectionOn(stays, p.due) === p.sectionId)
  return there ?? placements.find((p) => p.sectionId === sectionId)
}

/**
 * The same for many students, who mostly were in one section all the time: the placements of the assessment are looked up by section.
 * @param placements those of the one assessment
 */
export function placementsBySection<P extends { sectionId: string; due: Day | null }>(
  placements: readonly P[],
): (stays: readonly Stay[], sectionId: string) => P | undefined {
  const bySection = group(placements, (p) => p.sectionId)
  return (stays, sectionId) => {
    const stayed = stays.every((s) => s.sectionId === sectionId)
    return placementFor(stayed ? (bySection.get(sectionId) ?? []) : placements, stays, sectionId)
  }
}

/** The day an assessment is due for a student; null where no day is set for them. */
export const dueFor = (placements: Parameters<typeof placementFor>[0], stays: readonly Stay[], sectionId: string): Day | null =>
  placementFor(placements, stays, sectionId)?.due ?? null
