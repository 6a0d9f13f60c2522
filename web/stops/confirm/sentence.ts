import type { OpenItem } from '#core/trial'
import { useDecidedCourse } from '../../course/course'
import { counted } from '../../parts/format'

export function useSentence(): (item: OpenItem) => string {
  const { table } = useDecidedCourse()
  const titleOf = (id: string) =>
    table.assessments.find((a) => a.id === id)?.title ?? table.components.find((c) => c.id === id)?.title ?? id
  return (i) => {
    switch (i.kind) {
      case 'weight':
        return `${i.refs.map(titleOf).join(', ')}: no weight or worth was typed in`
      case 'placement':
        return `${i.refs.map(titleOf).join(', ')}: set for no section`
      case 'unmarked':
        return `${counted(i.count, 'mark')} of ${titleOf(i.refs[0]!)} not in yet`
      case 'held':
        return `${counted(i.count, 'script')} held back`
      case 'readings':
        return `${counted(i.count, 'script')} with fewer readings than wanted`
      case 'clash':
        return `${counted(i.count, 'script')} with a typed mark that a reading does not bear out`
      case 'spread':
        return `${counted(i.count, 'script')} whose readings lie over tolerance`
      case 'unsettled':
        return `${counted(i.count, 'script')} within tolerance, not settled yet`
      case 'unreached':
        return `${counted(i.count, 'mark')} of ${i.refs.map(titleOf).join(', ')} that what is done to readings does not change`
      case 'boundaries':
        return 'The boundaries are not in order'
    }
  }
}
