import type { Scale } from '../scales/scale'
import type { CaseRubric, FileRubric } from './case'

/** A mark scheme, as far as it travels. */
export interface CaseScheme {
  criteria: { id: string; title: string; max: number; words: string; notes?: string | undefined }[]
}
export type FileStandard =
  | { kind: 'scheme'; title: string; source: string | null; body: CaseScheme }
  | { kind: 'scale'; title: string; source: string | null; body: Scale }

interface Entry {
  id: string
  title: string
}

/** A mark scheme as a rubric: each part a criterion from nothing to its maximum. */
export const schemeAsRubric = ({ id, title, criteria }: Entry & CaseScheme): CaseRubric => ({
  id,
  title,
  kind: 'mark scheme',
  criteria: criteria.map((c) => ({
    id: c.id,
    title: c.title,
    ranges: false,
    penalty: false,
    ...(c.notes === undefined ? {} : { notes: c.notes }),
    levels: [
      { points: 0, words: '' },
      { points: c.max, words: c.words },
    ],
  })),
})

/** A scoring scale as a rubric: one criterion whose levels are the labels, each worth its percent. */
export const scaleAsRubric = ({ id, title, labels }: Entry & Scale): CaseRubric => ({
  id,
  title,
  kind: 'scale',
  criteria: [
    {
      id: 'labels',
      title,
      ranges: false,
      penalty: false,
      levels: labels.map((l) => ({ points: l.percent, name: l.label, words: '', threshold: l.threshold })),
    },
  ],
})

/** What a rubric of a file is that says it is something else; null for a rubric. */
export function standardOf(rubric: FileRubric): FileStandard | null {
  const { kind, title, source, criteria } = rubric
  if (kind === 'mark scheme')
    return {
      kind: 'scheme',
      title,
      source,
      body: {
        criteria: criteria.map((c) => {
          const top = c.levels.at(-1)
          return { id: c.id, title: c.title, max: top?.points ?? 0, words: top?.words ?? '', ...(c.notes ? { notes: c.notes } : {}) }
        }),
      },
    }
  if (kind === 'scale')
    return {
      kind: 'scale',
      title,
      source,
      body: {
        labels: (criteria[0]?.levels ?? []).map((l) => ({
          label: (l.name ?? l.words).slice(0, 120),
          percent: l.points,
          threshold: l.threshold ?? l.points,
        })),
      },
    }
  return null
}
