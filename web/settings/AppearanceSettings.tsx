import { Form } from 'react-bootstrap'
import { ROWS, setAppearance, SHADES, useAppearance } from './appearance'
import { SingleKeys } from './SingleKeys'

/** How pages look and listen in this browser: it stays here, since a screen at the board is not the one at home. */
export function AppearanceSettings() {
  const { shade, rows } = useAppearance()
  return (
    <section className="mt-4" aria-labelledby="appearance">
      <h2 id="appearance">How it looks in this browser</h2>
      <OneOf name="shade" words="light or dark" of={SHADES} chosen={shade} onChoose={(next) => setAppearance({ shade: next })} />
      <OneOf name="rows" words="rows of tables" of={ROWS} chosen={rows} onChoose={(next) => setAppearance({ rows: next })} />
      <SingleKeys />
    </section>
  )
}

interface OneOfProps<T extends string> {
  name: string
  words: string
  of: readonly T[]
  chosen: T
  onChoose: (next: T) => void
}

function OneOf<T extends string>({ name, words, of, chosen, onChoose }: OneOfProps<T>) {
  return (
    <fieldset className="one-of">
      <legend>{words}</legend>
      {of.map((x) => (
        <Form.Check
          inline
          type="radio"
          key={x}
          name={name}
          id={`${name}-${x}`}
          label={x}
          checked={x === chosen}
          onChange={() => onChoose(x)}
        />
      ))}
    </fieldset>
  )
}
