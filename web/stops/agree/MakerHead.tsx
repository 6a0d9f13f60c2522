import type { ReactNode } from 'react'
import { TitleField } from '../../parts/TitleField'

interface Props {
  /** What it is, for the field's label. */
  what: string
  maker: { title: string; rename: (title: string) => void; problem: string | null }
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
      {maker.problem && (
        <p className="note bad" role="alert">
          {maker.problem}
        </p>
      )}
    </>
  )
}
