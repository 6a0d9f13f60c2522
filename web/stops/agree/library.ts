import { useQuery } from '@tanstack/react-query'
import { rubricMaximum } from '#core/scales'
import { routes, type Library } from '#contract'
import { call } from '../../api/client'

export type Entry =
  | { kind: 'rubric'; of: Library['rubrics'][number] }
  | { kind: 'scheme'; of: Library['schemes'][number] }
  | { kind: 'scale'; of: Library['scales'][number] }
  | { kind: 'outcome'; of: Library['outcomes'][number] }
export type EntryKind = Entry['kind']

export const KINDS: Record<EntryKind, string> = { rubric: 'rubric', scheme: 'mark scheme', scale: 'scale', outcome: 'outcome' }

export const useLibrary = (courseId: string) =>
  useQuery({ queryKey: ['library', courseId], queryFn: () => call(routes.library, { params: { courseId } }), staleTime: Infinity })

/** What a rubric or mark scheme comes to; null for what has no points. */
export const pointsOf = (e: Entry): number | null =>
  e.kind === 'rubric' ? rubricMaximum(e.of) : e.kind === 'scheme' ? e.of.criteria.reduce((sum, c) => sum + c.max, 0) : null

export interface Hides {
  points: boolean
  words: boolean
}
export const SHOWS_ALL: Hides = { points: false, words: false }

/** What of an entry is hidden from this person, who marks by it. */
export const hiddenOf = ({ of }: Entry): Hides => of.hides ?? SHOWS_ALL

/** The library as one list, by title. */
export function entriesOf({ rubrics, schemes, scales, outcomes }: Library): Entry[] {
  return [
    ...rubrics.map((of): Entry => ({ kind: 'rubric', of })),
    ...schemes.map((of): Entry => ({ kind: 'scheme', of })),
    ...scales.map((of): Entry => ({ kind: 'scale', of })),
    ...outcomes.map((of): Entry => ({ kind: 'outcome', of })),
  ]
    .filter((e) => !e.of.superseded)
    .sort((a, b) => a.of.title.localeCompare(b.of.title, undefined, { numeric: true }))
}

/** Everything in an entry that can be searched for; a rubric is also found by the outcomes that it gives evidence of. */
export function wordsOf(e: Entry, outcomes: Library['outcomes'] = []): string {
  const body =
    e.kind === 'rubric'
      ? e.of.criteria.flatMap((c) => [
          c.title,
          ...c.levels.map((l) => l.words),
          ...outcomes.filter((o) => c.outcomeIds?.includes(o.id)).map((o) => o.title),
        ])
      : e.kind === 'scheme'
        ? e.of.criteria.flatMap((c) => [c.title, c.words])
        : e.kind === 'scale'
          ? e.of.labels.map((l) => l.label)
          : [e.of.statement, ...(e.of.group ?? []), ...e.of.levels.flatMap((l) => [l.label, l.words])]
  return [e.of.title, e.of.owner, KINDS[e.kind], ...body].join(' ').toLowerCase()
}
