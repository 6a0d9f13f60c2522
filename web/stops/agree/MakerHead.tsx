import type { ReactNode } from 'react'
import type { Standard } from '#contract'
import { TitleField } from '../../parts/TitleField'
import { WhichStands } from '../../parts/WhichStands'
import type { Maker } from './useMaker'
import styles from './agree.module.css'

interface Props {
  /** What it is, for the field's label. */
  what: string
  maker: Pick<Maker<Standard['kind']>, 'title' | 'rename' | 'problem' | 'clash' | 'settleClash'>
  children: ReactNode
}

/** The title of what is being made, what it is, and why a save was refused. */
export function MakerHead({ what, maker, children }: Props) {
  return (
    <>
      <div className="stop-head">
        <h1 className={styles.makerTitle}>
          <TitleField label={`Title of the ${what}`} value={maker.title} disabled={false} onCommit={maker.rename} />
        </h1>
        <span className="soft small">{children}</span>
      </div>
      {maker.clash && (
        <WhichStands onSettle={maker.settleClash}>
          This {what} was changed in another window since. Nothing is saved until you have chosen.
        </WhichStands>
      )}
      {maker.problem && !maker.clash && (
        <p className="note bad" role="alert">
          {maker.problem}
        </p>
      )}
    </>
  )
}
