import { useEffect, useState } from 'react'
import type { OwnWork } from '#contract'
import { page } from '../api/client'
import { vault } from '../saving/vault'

type Seen = Record<string, number | null>

/** What came back, or came back otherwise, since this browser showed it last; nothing is new the first time. */
export function useFresh(courseId: string, work: OwnWork['work'] | undefined): ReadonlySet<string> {
  const name = `level-table-came ${courseId} ${page.personId}`
  const [before] = useState(() => JSON.parse(vault.get(name) ?? 'null') as Seen | null)
  useEffect(() => {
    if (work) vault.set(name, JSON.stringify(Object.fromEntries(work.map((w) => [w.assessment, w.mark]))))
  }, [name, work])
  if (!before || !work) return new Set()
  return new Set(work.flatMap((w) => (w.mark !== null && before[w.assessment] !== w.mark ? w.assessment : [])))
}
