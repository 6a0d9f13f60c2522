import { ROWS, setAppearance, SHADES, useAppearance } from './appearance'
import { OneOf } from './OneOf'
import { SingleKeys } from './SingleKeys'

/** How pages look and listen in this browser: it stays here, since a screen at the board is not the one at home. */
export function AppearanceSettings() {
  const { shade, rows } = useAppearance()
  return (
    <section className="mt-4" aria-labelledby="appearance">
      <h2 id="appearance">How it looks in this browser</h2>
      <OneOf name="shade" words="light or dark" choices={SHADES} chosen={shade} onChoose={(next) => setAppearance({ shade: next })} />
      <OneOf name="rows" words="rows of tables" choices={ROWS} chosen={rows} onChoose={(next) => setAppearance({ rows: next })} />
      <SingleKeys />
    </section>
  )
}
