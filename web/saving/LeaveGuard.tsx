import { useEffect } from 'react'
import { Button, Modal } from 'react-bootstrap'
import { useBlocker } from 'react-router'
import { useSaved } from './saved'

/** Leaving a screen over something that was typed and could not be taken is asked about, with what would be lost. */
export function LeaveGuard() {
  const { held } = useSaved()
  const lost = held.filter((h) => h.lost)
  const leaving = useBlocker(({ currentLocation, nextLocation }) => lost.length > 0 && currentLocation.pathname !== nextLocation.pathname)
  const any = held.length > 0
  useEffect(() => {
    const onLeave = (e: BeforeUnloadEvent) => {
      if (any) e.preventDefault()
    }
    window.addEventListener('beforeunload', onLeave)
    return () => window.removeEventListener('beforeunload', onLeave)
  }, [any])
  if (leaving.state !== 'blocked') return null
  return (
    <Modal show onHide={() => leaving.reset()} centered animation={false} aria-labelledby="leave-guard">
      <Modal.Header>
        <Modal.Title id="leave-guard">Something is not saved</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {lost.map((h) => (
          <p key={h.what} className="mb-1">
            {h.what}
          </p>
        ))}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={() => leaving.proceed()}>
          Leave it
        </Button>
        <Button autoFocus onClick={() => leaving.reset()}>
          Stay and mend it
        </Button>
      </Modal.Footer>
    </Modal>
  )
}
