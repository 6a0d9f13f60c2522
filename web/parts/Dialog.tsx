import { createContext, use, useId, useState, type ReactNode } from 'react'
import { Modal, type ModalProps } from 'react-bootstrap'

/** By which a dialog knows the title that names it. */
const TitleId = createContext<string | undefined>(undefined)

/** The title of a dialog, by which it is called. */
export const DialogTitle = ({ children }: { children: ReactNode }) => <Modal.Title id={use(TitleId)}>{children}</Modal.Title>

/**
 * A dialog, named by its `DialogTitle`. Once something is typed in it a click beside it does nothing, and Esc asks once before what was typed is dropped;
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
  const titleId = useId()
  const [typed, setTyped] = useState(false)
  const [asked, setAsked] = useState(false)
  return (
    <Modal
      show
      centered
      animation={false}
      aria-labelledby={titleId}
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
        <TitleId value={titleId}>{children}</TitleId>
      </div>
      {asked && (
        <p className="dialog-asks small ochre" role="status">
          What you typed here is dropped: Esc once more, or go on.
        </p>
      )}
    </Modal>
  )
}
