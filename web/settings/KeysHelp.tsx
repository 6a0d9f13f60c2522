import { useEffect, useState } from 'react'
import { Modal } from 'react-bootstrap'
import { messageOf } from '../api/client'
import { keyShown } from './KeyCap'
import { combination, isSingle, ownerOf, pressedFor, useAllKeys, useKeys, type Key } from './keys'
import { useOwnSettings } from './own-settings'
import { SingleKeys } from './SingleKeys'

/** What has a meaning everywhere, or is a part of another key. */
const TAKEN = new Set(['Tab', 'Shift+Tab', 'Enter', 'Escape', ' ', 'ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', '?'])
/** Letters and signs that no screen takes. */
const FREE = () => {
  const free = [...'abcdefghijklmnopqrstuvwxyz.,;'].filter((k) => ownerOf(k, '') === null)
  return `Free are ${free.map(keyShown).join(' ')}, and capital letters that no screen has.`
}
const PART = new Set(['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'Dead', 'Process', 'Unidentified'])

/** `?` shows the keys of the screen, and lets each person press others for letters and signs. */
export function KeysHelp() {
  const [keys, setKeys] = useState<Key[] | null>(null)
  const all = useAllKeys()
  useKeys([{ key: '?', does: 'these keys', run: () => setKeys(all()) }])
  return (
    <Modal
      show={keys !== null}
      onHide={() => setKeys(null)}
      centered
      animation={false}
      scrollable
      aria-labelledby="keys-of-screen"
      // While another key is pressed, Esc means that.
      onEscapeKeyDown={(e) => document.querySelector('.keys-help [data-waits]') && e.preventDefault()}
    >
      <Modal.Header closeButton>
        <Modal.Title id="keys-of-screen">Keys on this screen</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <KeysTable keys={[...(keys ?? [])].reverse()} />
        <SingleKeys />
      </Modal.Body>
    </Modal>
  )
}

function KeysTable({ keys }: { keys: Key[] }) {
  const { settings, change } = useOwnSettings()
  const [waits, setWaits] = useState<string | null>(null)
  const [said, setSaid] = useState('')
  const keep = async (own: Record<string, string>, words: string) => {
    try {
      await change({ keys: own })
      setSaid(words)
    } catch (e) {
      setSaid(messageOf(e))
    }
  }
  useEffect(() => {
    if (waits === null) return
    const listen = (e: KeyboardEvent) => {
      if (PART.has(e.key)) return
      e.preventDefault()
      e.stopPropagation()
      const pressed = combination(e)
      if (pressed === 'Escape') return setWaits(null)
      const other = keys.find((k) => k.key !== waits && k.run && pressedFor(k.key) === pressed)
      if (TAKEN.has(pressed) || !isSingle(pressed))
        return setSaid(`${keyShown(pressed)} has its meaning everywhere: press a letter, a digit or a sign.`)
      if (other) return setSaid(`${keyShown(pressed)} is “${other.does}” here: press another, or change that one first.`)
      if (ownerOf(pressed, waits) !== null) return setSaid(`${keyShown(pressed)} is a key of another screen. ${FREE()}`)
      const { [waits]: _, ...rest } = settings.keys
      void keep(pressed === waits ? rest : { ...rest, [waits]: pressed }, `It is ${keyShown(pressed)} from now on.`)
      setWaits(null)
    }
    document.addEventListener('keydown', listen, true)
    return () => document.removeEventListener('keydown', listen, true)
  })
  return (
    <>
      <p className="soft small mb-2" role="status">
        {said || 'Letters and signs can be other keys for you, wherever you sign in.'}
      </p>
      <table className="grid keys-help">
        <tbody>
          {keys.map((k) => (
            <tr key={k.key + k.does}>
              <td style={{ width: 110 }}>
                {waits === k.key ? (
                  <span className="ochre" data-waits>
                    press a key…
                  </span>
                ) : (
                  <kbd>{keyShown(pressedFor(k.key))}</kbd>
                )}
              </td>
              <td>{k.does}</td>
              <td className="text-end text-nowrap">
                {k.run && isSingle(k.key) && k.key !== '?' && (
                  <>
                    {settings.keys[k.key] !== undefined && waits !== k.key && (
                      <button
                        className="quiet-button"
                        aria-label={`${keyShown(k.key)} again: ${k.does}`}
                        onClick={(e) => {
                          const { [k.key]: _, ...rest } = settings.keys
                          // This one goes: one goes on from the one beside it.
                          e.currentTarget.parentElement?.querySelector<HTMLElement>('button:last-of-type')?.focus()
                          void keep(rest, `It is ${keyShown(k.key)} again.`)
                        }}
                      >
                        {keyShown(k.key)} again
                      </button>
                    )}{' '}
                    <button
                      className="quiet-button"
                      aria-label={waits === k.key ? 'Leave it' : `Another key: ${k.does}`}
                      onClick={() => {
                        setSaid(waits === k.key ? '' : `Press the key that you want for “${k.does}”, or Esc.`)
                        setWaits(waits === k.key ? null : k.key)
                      }}
                    >
                      {waits === k.key ? 'leave it' : 'another'}
                    </button>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
