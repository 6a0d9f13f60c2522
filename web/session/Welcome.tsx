import type { ReactNode } from 'react'
import { Logo } from '../parts/Logo'
import styles from './door.module.css'

/** What stands outside: the product's name on one side, the door on the other. */
export function Welcome({ department, demo = false, children }: { department?: string; demo?: boolean; children: ReactNode }) {
  return (
    <main className={styles.page}>
      <div className={styles.welcome}>
        <Logo width={96} />
        <h1 className="mt-3">Level Table</h1>
        {department && <p className="fs-5 mb-0">{department}</p>}
        <p className="mt-3 fs-5" style={{ maxWidth: '34ch' }}>
          Where marks from many sections and many hands are brought to one standard, and every decision can be seen and taken back until it
          is confirmed.
        </p>
        {demo && <p className="soft">This is the demo: its people and marks are made up.</p>}
      </div>
      <div className={styles.door}>{children}</div>
    </main>
  )
}
