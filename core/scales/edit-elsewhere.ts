/** An entry of the library, as far as it decides what an edit does to those who use it. */
export interface EditedEntry {
  id: string
  kind: 'rubric' | 'scheme' | 'scale' | 'outcome'
  version: number
  /** Somebody has read or typed marks by this version, which then never changes. */
  read: boolean
  uses: readonly { courseId: string; course: string; assessment: string; standardId: string }[]
}

const NAMED = 3

const listed = (names: readonly string[]): string => {
  const all = [...new Set(names)]
  const more = all.length - NAMED
  return more > 0 ? `${all.slice(0, NAMED).join(', ')} and ${more} more` : all.join(', ')
}

/**
 * What an edit of a shared entry does in the other courses that use it, in a sentence to be read before the edit is made.
 * @param courseId the course that the editor is in
 * @returns null where no other course uses it
 */
export function editElsewhere({ id, kind, version, read, uses }: EditedEntry, courseId: string): string | null {
  const others = uses.filter((u) => u.courseId !== courseId)
  if (others.length === 0) return null
  if (kind === 'outcome')
    return `Other courses use it too: ${listed(others.map((u) => u.course))}. Where their students stand, and marks that follow from it, change with each edit; what is confirmed stays as it was signed.`
  const named = (some: typeof others) => listed(some.map((u) => `${u.assessment} (${u.course})`))
  if (read)
    return `An edit makes version ${version + 1}. Other courses stay with the version that they use until they take the new one: ${named(others)}.`
  const now = others.filter((u) => u.standardId === id)
  return now.length === 0 ? null : `Other courses use this version too, and change with each edit: ${named(now)}.`
}
