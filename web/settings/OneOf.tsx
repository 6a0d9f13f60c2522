import { Form } from 'react-bootstrap'
import styles from './one-of.module.css'

interface OneOfProps<T extends string> {
  name: string
  words: string
  choices: readonly T[]
  chosen: T
  onChoose: (next: T) => void
  /** How it is said, where its own words say too little. */
  say?: (x: T) => string
}

/** One of a few, all in sight. */
export function OneOf<T extends string>({ name, words, choices, chosen, onChoose, say = String }: OneOfProps<T>) {
  return (
    <fieldset className={styles.oneOf}>
      <legend>{words}</legend>
      {choices.map((x) => (
        <Form.Check
          inline
          type="radio"
          key={x}
          name={name}
          id={`${name}-${x}`}
          label={say(x)}
          checked={x === chosen}
          onChange={() => onChoose(x)}
        />
      ))}
    </fieldset>
  )
}
