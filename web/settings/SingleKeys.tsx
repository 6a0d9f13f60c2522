import { useId, useState } from 'react'
import { Form } from 'react-bootstrap'
import { singleKeys } from './keys'

/** Letters and signs as keys can be in the way of who dictates, or has a hand that slips. */
export function SingleKeys() {
  const [on, setOn] = useState(singleKeys.on)
  return (
    <Form.Check
      id={useId()}
      className="mt-3"
      label="single letters and signs act as keys"
      checked={on}
      onChange={(e) => {
        singleKeys.set(e.target.checked)
        setOn(e.target.checked)
      }}
    />
  )
}
