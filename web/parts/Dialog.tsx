import { useState, type ReactNode } from 'react'
import { Modal, type ModalProps } from 'react-bootstrap'

/**
 * A dialog. Once something is typed in it a click beside it does nothing, and Esc asks once before what was typed is dropped;
 * Cancel says what it does and does it.
 */
export function Dialog({
  onClose,
  keeps = false,
  children,
  ...more
}: Omit<ModalProps, 'show' | 'onHide'> & {
  onClose: () => void
  /** What is typed is there again when the dialog is opened again, so that nothing is asked as it closes. */
  keeps?: boolean
  children: ReactNode
}) {
  const [typed, setTyped] = useState(false)
  const [asked, setAsked] = useState(false)
  return (
    <Modal
      show
      centered
      animation={false}
      onHide={onClose}
      backdrop={typed ? 'static' : true}
      onEscapeKeyDown={(e: KeyboardEvent) => {
        if (!typed || asked) return
        e.preventDefault()
        setAsked(true)
      }}
      {...more}
    >
      <div
        className="dialog-inside"
        onInput={() => {
          setTyped(!keeps)
          setAsked(false)
        }}
      >
        {children}
      </div>
      {asked && (
        <p className="dialog-asks small ochre" role="status">
          What you typed here is dropped: Esc once more, or go on.
        </p>
      )}
    </Modal>
  )
}
