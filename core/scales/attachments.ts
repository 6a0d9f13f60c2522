import { group } from 'd3-array'

export interface Attached {
  assessmentId: string
  title: string
  componentId: string
  outOf: number
  marking: string
  /** Sections it is set for. */
  sectionIds: readonly string[]
  standardId: string | null
}

export interface AttachedStandard {
  id: string
  title: string
  version: number
  /** The first version of its line, which is the same for all of them. */
  lineId: string
}

export interface AttachmentFinding {
  kind: 'other version' | 'other standard' | 'none here'
  assessmentId: string
  message: string
  /** What its like use, which would mend it. */
  standardId: string
}

/**
 * Assessments that are alike, set for different sections of one component out of the same, and not marked by the same
 * standard: another version, another one, or none. The odd ones out are named against what most of them use; where
 * as many use one as another, against the later version.
 */
export function attachmentFindings(
  assessments: readonly Attached[],
  standards: ReadonlyMap<string, AttachedStandard>,
): AttachmentFinding[] {
  const groups = group(assessments, (a) => `${a.componentId}|${a.outOf}|${a.sectionIds.length > 0}`)
  const found: AttachmentFinding[] = []
  const used = assessments.filter((a) => a.standardId !== null && standards.has(a.standardId))
  const standardOf = (a: Attached) => standards.get(a.standardId!)!

  for (const a of used) {
    const own = standardOf(a)
    const newer = used.map(standardOf).filter((s) => s.lineId === own.lineId && s.version > own.version)
    const top = newer.sort((x, y) => y.version - x.version)[0]
    const other = top && used.find((x) => x.standardId === top.id)
    if (top && other)
      found.push({
        kind: 'other version',
        assessmentId: a.assessmentId,
        message: `${a.title} is marked by version ${own.version} of ${own.title}, ${other.title} by version ${top.version}.`,
        standardId: top.id,
      })
  }
  const apart = new Set(found.map((f) => f.assessmentId))
  for (const like of groups.values()) {
    // Alike means: one assessment in parts, each set for sections that the others are not set for.
    const alike = like.filter((a) => like.every((b) => a === b || disjoint(a.sectionIds, b.sectionIds)))
    if (alike.length < 2) continue
    const counts = group(
      alike.filter((a) => a.standardId !== null && standards.has(a.standardId)),
      (a) => a.standardId!,
    )
    const [most] = [...counts].sort((x, y) => y[1].length - x[1].length || standards.get(y[0])!.version - standards.get(x[0])!.version)
    if (!most) continue
    const usual = standards.get(most[0])!
    for (const a of alike) {
      if (a.standardId === usual.id || apart.has(a.assessmentId)) continue
      const own = a.standardId === null ? undefined : standards.get(a.standardId)
      found.push({
        kind: own ? 'other standard' : 'none here',
        assessmentId: a.assessmentId,
        message: own
          ? `${a.title} is marked by ${own.title}; ${most[1][0]!.title}, its like in other sections, by ${usual.title}.`
          : `${a.title} has no standard attached; ${most[1][0]!.title}, its like in other sections, is marked by ${usual.title}.`,
        standardId: usual.id,
      })
    }
  }
  return found
}

const disjoint = (a: readonly string[], b: readonly string[]) => a.length > 0 && b.length > 0 && !a.some((x) => b.includes(x))
