import { useMemo, type ReactNode } from 'react'
import { isSameSet, wholePercents } from '#core/grades'
import type { Change } from '#core/trial'
import { useDecidedCourse } from '../../course/course'
import { Ideas } from '../../parts/ideas/Ideas'
import { useEarlierLines } from '../../parts/useEarlierLines'

const WORDS = {
  title: 'Drafts of the lines',
  one: 'draft',
  how: 'Move a line, or try a condition, and keep it here as a draft beside others.',
}

const isOfLines = (c: Change) => c.kind === 'bound' || c.kind === 'condition'

/** Ways to draw the lines, with what grades ask for, beside each other and beside the lines of before. */
export function DraftsPart({ nav }: { nav: ReactNode }) {
  const { table } = useDecidedCourse()
  const earlier = useEarlierLines()
  const beside = useMemo(
    () =>
      earlier.map(({ id, name, boundaries, counts }) => {
        const percents = wholePercents(counts.map((c) => c.count))
        return {
          id,
          name,
          changes: isSameSet(boundaries, table.boundaries) ? [] : [{ kind: 'bound' as const, boundaries }],
          says: counts.some((c) => c.count > 0) ? `then ${counts.map((c, i) => `${c.grade} ${percents[i]}%`).join(', ')}` : undefined,
        }
      }),
    [earlier, table.boundaries],
  )
  // A draft is a whole set, whatever is in force when it is tried; what else is tried stays beside it.
  const own = useMemo(
    () => ({
      isOwn: isOfLines,
      kept: (changes: readonly Change[]): Change[] =>
        changes.filter(isOfLines).map((c) => (c.kind === 'bound' ? { kind: 'bound', boundaries: c.boundaries } : c)),
    }),
    [],
  )
  return <Ideas nav={nav} stop="bound" words={WORDS} beside={beside} byGrade own={own} />
}
