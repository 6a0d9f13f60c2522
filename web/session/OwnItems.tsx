import { Dropdown } from 'react-bootstrap'
import { Link } from 'react-router'
import type { Me } from '#contract'
import { signOut } from './leave'
import { useSaved } from '../saving/saved'

/** What the menu at one's name ends with on every page. */
export function OwnItems({ me }: { me: Me }) {
  const { saving } = useSaved()
  return (
    <>
      {me.admin && (
        <Dropdown.Item as={Link} to="/installation">
          The installation
        </Dropdown.Item>
      )}
      <Dropdown.Item as={Link} to="/account">
        Your account
      </Dropdown.Item>
      <Dropdown.Item onClick={() => void saving(signOut()).catch(() => undefined)}>Sign out</Dropdown.Item>
    </>
  )
}
