import { useEffect, useState } from 'react'
import { Button } from 'react-bootstrap'
import { versionNews } from '../api/new-version'

export const NEW_VERSION = 'There is a new version of Level Table. Load the page again; what you typed is kept.'

/** Says that the page is of an earlier version than the server, once that is known. */
export function NewVersion() {
  const [isNew, setNew] = useState(false)
  useEffect(() => {
    const on = () => setNew(true)
    versionNews.addEventListener('new', on)
    return () => versionNews.removeEventListener('new', on)
  }, [])
  if (!isNew) return null
  return (
    <p className="note d-flex gap-3 align-items-center m-2" role="status">
      {NEW_VERSION}
      <Button size="sm" variant="outline-primary" onClick={() => location.reload()}>
        Load it again
      </Button>
    </p>
  )
}
