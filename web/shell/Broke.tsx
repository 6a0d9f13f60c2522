import type { ReactNode } from 'react'
import { ErrorBoundary } from 'react-error-boundary'
import { messageOf } from '../api/client'
import styles from './broke.module.css'

/** A part of the frame that breaks says so in its own place; the others, and what waits to be saved, go on. */
export const Broke = ({ part, children }: { part: string; children: ReactNode }) => (
  <ErrorBoundary
    fallbackRender={({ error, resetErrorBoundary }) => (
      <p className={`${styles.broke} small mb-0`} role="alert">
        {part} broke: {messageOf(error)} What you did is safe.{' '}
        <button className="quiet-button" onClick={resetErrorBoundary}>
          Draw it again
        </button>
      </p>
    )}
  >
    {children}
  </ErrorBoundary>
)
