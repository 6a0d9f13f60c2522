import { Form } from 'react-bootstrap'

interface Props {
  id: string
  label: string
  /** Endings of the files that are taken, with commas between. */
  accept: string
  /** Whether one begins with it. */
  first?: boolean
  disabled?: boolean
  onFile: (file: File) => void
}

/** Bytes of a file that is sent within a request. */
export const MOST_FILE = 12_000_000

/** A file to be chosen. */
export const FileField = ({ id, label, accept, first = false, disabled = false, onFile }: Props) => (
  <Form.Group controlId={id}>
    <Form.Label className="soft small mb-0">{label}</Form.Label>
    <Form.Control
      type="file"
      accept={accept}
      autoFocus={first}
      disabled={disabled}
      // A file that was mended has the name it had before, and is chosen once more.
      onClick={(e) => (e.currentTarget.value = '')}
      onChange={(e) => {
        const file = (e.target as HTMLInputElement).files?.[0]
        if (file) onFile(file)
      }}
    />
  </Form.Group>
)
