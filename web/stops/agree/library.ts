import { useQuery } from '@tanstack/react-query'
import { rubricMaximum } from '#core/scales'
import { routes, type Library } from '#contract'
import { call } from '../../api/client'

export type Entry =
  | { kind: 'rubric'; standard: Library['rubrics'][number] }
  | { kind: 'scheme'; standard: Library['schemes'][number] }
  | { kind: 'scale'; standard: Library['scales'][number] }
  | { kind: 'outcome'; standard: Library['outcomes'][number] }
export type EntryKind = Entry['kind']

export const KINDS: Record<EntryKind, string> = { rubric: 'rubric', scheme: 'mark scheme', scale: 'scale', outcome: 'outcome' }

export const useLibrary = (courseId: string) =>
  useQuery({ queryKey: ['library', courseId], queryFn: () => call(routes.library, { params: { courseId } }), staleTime: Infinity })

/** What a rubric or mark scheme comes to; null for what has no points. */
export const pointsOf = (e: Entry): number | null =>
  e.kind === 'rubric' ? rubricMaximum(e.standard) : e.kind === 'scheme' ? e.standard.criteria.reduce((sum, c) => sum + c.max, 0) : null

export interface Hides {
  points: boolean
  words: boolean
}
export const SHOWS_ALL: Hides = { points: false, words: false }

/** What of an entry is hidden from this person, who marks by it. */
export const hiddenOf = ({ standard }: Entry): Hides => standard.hides ?? SHOWS_ALL

/** The library as one list, by title. */
export function entriesOf({ rubrics, schemes, scales, outcomes }: Library): Entry[] {
  return [
    ...rubrics.map((of): Entry => ({ kind: 'rubric', standard: of })),
    ...schemes.map((of): Entry => ({ kind: 'scheme', standard: of })),
    ...scales.map((of): Entry => ({ kind: 'scale', standard: of })),
    ...outcomes.map((of): Entry => ({ kind: 'outcome', standard: of })),
  ]
    .filter((e) => !e.standard.superseded)
    .sort((a, b) => a.standard.title.localeCompare(b.standard.title, undefined, { numeric: true }))
}

/** Everything in an entry that can be searched for; a rubric is also found by the outcomes that it gives evidence of. */
export function wordsOf(e: Entry, outcomes: Library['outcomes'] = []): string {
  const body =
    e.kind === 'rubric'
      ? e.standard.criteria.flatMap((c) => [
          c.title,
          ...c.levels.map((l) => l.words),
          ...outcomes.filter((o) => c.outcomeIds?.includes(o.id)).map((o) => o.title),
        ])
      : e.kind === 'scheme'
        ? e.standard.criteria.flatMap((c) => [c.title, c.words])
        : e.kind === 'scale'
          ? e.standard.labels.map((l) => l.label)
          : [e.standard.statement, ...(e.standard.group ?? []), ...e.standard.levels.flatMap((l) => [l.label, l.words])]
  return [e.standard.title, e.standard.owner, KINDS[e.kind], ...body].join(' ').toLowerCase()
}
