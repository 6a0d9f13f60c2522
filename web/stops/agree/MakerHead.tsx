import type { ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import type { Standard } from '#contract'
import { TitleField } from '../../parts/TitleField'
import type { Maker } from './useMaker'

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
        <h1 className="maker-title">
          <TitleField label={`Title of the ${what}`} value={maker.title} disabled={false} onCommit={maker.rename} />
        </h1>
        <span className="soft small">{children}</span>
      </div>
      {maker.clash && (
        <div className="note bad" role="alert">
          <p className="mb-1">This {what} was changed in another window since. Nothing is saved until you have chosen.</p>
          <span className="buttons">
            <Button size="sm" variant="outline-primary" onClick={() => maker.settleClash('mine')}>
              Keep what is here
            </Button>
            <Button size="sm" variant="outline-primary" onClick={() => maker.settleClash('theirs')}>
              Take what is there
            </Button>
          </span>
        </div>
      )}
      {maker.problem && !maker.clash && (
        <p className="note bad" role="alert">
          {maker.problem}
        </p>
      )}
    </>
  )
}
