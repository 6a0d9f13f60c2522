import { useState } from 'react'
import { Form, Modal } from 'react-bootstrap'
import { singleKeys, useAllKeys, useKeys, type Key } from './keys'

/** `?` shows the keys of the screen. */
export function KeysHelp() {
  const [keys, setKeys] = useState<Key[] | null>(null)
  const [singles, setSingles] = useState(singleKeys.on)
  const all = useAllKeys()
  useKeys([{ key: '?', does: 'these keys', run: () => setKeys(all()) }])
  return (
    <Modal show={keys !== null} onHide={() => setKeys(null)} centered animation={false} scrollable>
      <Modal.Header closeButton>
        <Modal.Title>Keys on this screen</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <table className="grid">
          <tbody>
            {[...(keys ?? [])].reverse().map((k) => (
              <tr key={k.key + k.does}>
                <td style={{ width: 150 }}>
                  <kbd>{k.key === ' ' ? 'Space' : k.key.replace('Arrow', '')}</kbd>
                </td>
                <td>{k.does}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <Form.Check
          id="single-keys"
          className="mt-3"
          label="single letters and signs act as keys"
          checked={singles}
          onChange={(e) => {
            singleKeys.set(e.target.checked)
            setSingles(e.target.checked)
          }}
        />
      </Modal.Body>
    </Modal>
  )
}
