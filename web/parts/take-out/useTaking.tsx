import { useState, type ReactNode } from 'react'
import { messageOf } from '../../api/client'

/** Work that ends in a file, and what is said where it fails. */
export function useTaking(): { taking: (work: () => Promise<void> | void) => () => void; problem: ReactNode } {
  const [problem, setProblem] = useState<string | null>(null)
  const taking = (work: () => Promise<void> | void) => () => {
    setProblem(null)
    void Promise.resolve()
      .then(work)
      .catch((e: unknown) => setProblem(messageOf(e)))
  }
  const said = problem && (
    <p className="note bad small" role="alert">
      {problem}
    </p>
  )
  return { taking, problem: said }
}
