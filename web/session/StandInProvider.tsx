import { useQuery } from '@tanstack/react-query'
import { Button, Form } from 'react-bootstrap'
import { useLocation } from 'react-router'
import { doorRoutes } from '#contract/door'
import { call } from '../api/client'
import styles from './door.module.css'
import sessionStyles from './session.module.css'

const BACK = '/api/stand-in/sign-on/as'

/** The page of the stand-in provider: it believes whoever says who they are. */
export function StandInProvider() {
  const { search } = useLocation()
  const directory = useQuery({ queryKey: ['directory'], queryFn: () => call(doorRoutes.directory) })
  const asked = [...new URLSearchParams(search)]
  const as = (who: string, name: string) => `${BACK}?${new URLSearchParams([...asked, ['who', who], ['name', name]]).toString()}`
  const people = directory.data?.people ?? []
  return (
    <main className={sessionStyles.standInProvider}>
      <title>Sign-on, a stand-in</title>
      <p className="soft small mb-4">
        A stand-in for a department’s sign-on, in place of its own pages. It asks for no proof, and nothing leaves this machine.
      </p>
      <h1>Who are you?</h1>
      {people.length > 0 && (
        <ul className={styles.people}>
          {people.map((p) => (
            <li key={p.signIn}>
              <a href={as(p.signIn, p.name)}>
                <b>{p.name}</b>
                <span className="soft small">{p.signIn}</span>
              </a>
            </li>
          ))}
        </ul>
      )}
      <Form action={BACK} method="get" className="d-grid gap-2 mt-4">
        <h2>{people.length > 0 ? 'Somebody else' : 'Say who'}</h2>
        {asked.map(([name, value]) => (
          <input key={name} type="hidden" name={name} value={value} />
        ))}
        <Form.Group controlId="stand-in-who">
          <Form.Label className="soft small mb-0">Sign-in</Form.Label>
          <Form.Control name="who" required autoComplete="off" />
        </Form.Group>
        <Form.Group controlId="stand-in-name">
          <Form.Label className="soft small mb-0">Name</Form.Label>
          <Form.Control name="name" autoComplete="off" />
        </Form.Group>
        <Form.Group controlId="stand-in-email">
          <Form.Label className="soft small mb-0">Mail address</Form.Label>
          <Form.Control name="email" type="email" autoComplete="off" />
        </Form.Group>
        <div className="d-flex align-items-center gap-3 mt-2">
          <Button type="submit">Go back as them</Button>
          <a href={as('', '')}>Let nobody through</a>
        </div>
      </Form>
    </main>
  )
}
