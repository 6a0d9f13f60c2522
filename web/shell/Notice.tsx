import type { ReactNode } from 'react'

/** A page that says why nothing else is on it. */
export function Notice({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="empty">
      <h1>{title}</h1>
      <p className="mt-2">{children}</p>
    </main>
  )
}
