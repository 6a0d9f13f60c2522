import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Dropdown } from 'react-bootstrap'
import { routes, type Me } from '#contract'
import { call } from '../api/client'
import { meQuery } from './ahead'
import { useKeys } from '../settings/keys'
import styles from './look.module.css'

/** Nothing of what one saw as somebody else may stay in the page's memory, so it begins anew. */
const beginAnew = (courseId: string) => window.location.assign(`/courses/${courseId}`)

/** Whether one looks at a course as somebody else, and may change nothing. */
export const useLooking = (): boolean => !!useQuery(meQuery).data?.look

/** The markers of the course, each to see it as they do; asked for when the menu opens. */
export function SeeItAs({ courseId }: { courseId: string }) {
  const [open, setOpen] = useState(false)
  const markers = useQuery({
    queryKey: ['markers', courseId],
    queryFn: () => call(routes.markers, { params: { courseId } }),
    enabled: open,
  })
  if (!open)
    return (
      <Dropdown.Item as="button" onClick={(e) => (e.stopPropagation(), setOpen(true))}>
        See it as a marker does…
      </Dropdown.Item>
    )
  return (
    <div className={styles.seeAs} role="group" aria-label="See it as a marker does">
      <Dropdown.Header>See it as, read only and recorded</Dropdown.Header>
      {markers.data?.map((m) => (
        <Dropdown.Item
          as="button"
          key={m.id}
          onClick={() => void call(routes.look, { params: { courseId }, body: { personId: m.id } }).then(() => beginAnew(courseId))}
        >
          {m.name}
        </Dropdown.Item>
      ))}
    </div>
  )
}

/** Says as whom one looks, and leads back. */
export function LookingAs({ look }: { look: NonNullable<Me['look']> }) {
  const back = () => void call(routes.lookBack).then(() => beginAnew(look.courseId))
  useKeys([{ key: 'Ctrl+Escape', does: 'see it as yourself again', inFields: true, run: back }])
  return (
    <footer className={styles.looking} aria-label="As whom you look">
      <span>
        You see it as <b>{look.name}</b> does. Nothing can be changed, and that you looked is recorded.
      </span>
      <Button size="sm" variant="outline-primary" onClick={back}>
        Back to yourself
      </Button>
    </footer>
  )
}
