import type { ReactNode } from 'react'
import { Dropdown } from 'react-bootstrap'
import { Link } from 'react-router'
import { useSignedIn } from './ahead'
import { SavedTools } from '../shell/HeadTools'
import { KeysProvider } from '../settings/keys'
import { KeysHelp } from '../settings/KeysHelp'
import { LeaveGuard } from '../saving/LeaveGuard'
import { SavedProvider } from '../saving/saved'
import { UndoProvider } from '../saving/undo'
import { WriteProblem, WritesProvider } from '../saving/writes'
import { Logo } from '../parts/Logo'
import { DemoBand } from './DemoBand'
import { OwnItems } from './OwnItems'
import styles from '../shell/head.module.css'
import sessionStyles from './session.module.css'

/** The frame without a course: for the installation and one's own account. */
export function PlainFrame({ title, nav, children }: { title: string; nav?: ReactNode; children: ReactNode }) {
  return (
    <KeysProvider>
      <SavedProvider>
        <LeaveGuard />
        <UndoProvider>
          <WritesProvider courseId={null}>
            <title>{`${title} · Level Table`}</title>
            <div className="frame without-run">
              <PlainHead nav={nav} />
              <div className={sessionStyles.underHead}>
                <WriteProblem />
                {children}
              </div>
            </div>
            <KeysHelp />
          </WritesProvider>
        </UndoProvider>
      </SavedProvider>
    </KeysProvider>
  )
}

function PlainHead({ nav }: { nav?: ReactNode }) {
  const me = useSignedIn()
  return (
    <header className={styles.head}>
      <Link className={styles.brand} to="/">
        <Logo width={32} /> Level Table <DemoBand />
      </Link>
      <div className={`${styles.course} d-flex gap-3`}>{nav}</div>
      <span className="ms-auto" />
      <SavedTools />
      <Dropdown align="end" className="ms-0">
        <Dropdown.Toggle variant="link" size="sm" className="text-reset fw-normal">
          {me.name}
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item as={Link} to="/">
            Your courses
          </Dropdown.Item>
          <OwnItems me={me} />
        </Dropdown.Menu>
      </Dropdown>
    </header>
  )
}
