import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { messageOf } from '../api/client'
import { goToProvider, withinTime } from './by-provider'

/** The button to the department’s provider. */
export function ByProvider({ name, focus = false, label = `Come in by ${name}` }: { name: string; focus?: boolean; label?: string }) {
  const [going, setGoing] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const go = async () => {
    setGoing(true)
    setProblem(null)
    try {
      await withinTime(goToProvider(), name)
    } catch (e) {
      setProblem(messageOf(e))
      setGoing(false)
    }
  }
  return (
    <>
      {/* Not disabled while it goes, so that the focus stays. */}
      <Button autoFocus={focus} onClick={() => void (going || go())} aria-disabled={going}>
        {going ? `Going to ${name}…` : label}
      </Button>
      {problem && (
        <p className="note bad mt-2 mb-0" role="alert">
          {problem}
        </p>
      )}
    </>
  )
}
