import { useState } from 'react'
import { Modal } from 'react-bootstrap'
import { useAllKeys, useKeys, type Key } from './keys'
import { SingleKeys } from './SingleKeys'

/** `?` shows the keys of the screen. */
export function KeysHelp() {
  const [keys, setKeys] = useState<Key[] | null>(null)
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
        <SingleKeys />
      </Modal.Body>
    </Modal>
  )
}
