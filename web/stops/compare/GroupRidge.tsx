import { Ridge } from '../../parts/Ridge'
import type { Compared, ComparedGroup } from '../../parts/compared'
import styles from './compare.module.css'

interface Props {
  group: Pick<ComparedGroup, 'id' | 'name' | 'people' | 'figures'>
  in: Pick<Compared, 'from' | 'top' | 'tallest' | 'mean' | 'passMark'>
  chosen: boolean
  onPick?: (id: string, value: number) => void
}

const nowhere = () => undefined

/** A row’s values on the axis that all rows share. */
export function GroupRidge({ group, in: axis, chosen, onPick = nowhere }: Props) {
  return (
    <td className={styles.ridge} data-drawn={group.name}>
      <Ridge
        id={group.id}
        people={group.people}
        figures={group.figures}
        from={axis.from}
        to={axis.top}
        tallest={axis.tallest}
        level={axis.mean}
        passMark={axis.passMark}
        chosen={chosen}
        onPick={onPick}
      />
    </td>
  )
}
