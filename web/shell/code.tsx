import { lazy, useEffect, useState, type ComponentType } from 'react'
import { isNewVersion } from '../api/new-version'

type Code<P> = () => Promise<{ default: ComponentType<P> }>

const AHEAD_MS = 1000
const stops: Code<object>[] = []

/** Stands where code could not be fetched. A browser asks for a module once, so that only a new load of the page helps. */
function NotHere() {
  const [isNew, setNew] = useState(false)
  useEffect(() => void isNewVersion().then(setNew), [])
  return (
    <p className="empty not-here">
      {isNew ? 'There is a new version of Level Table: ' : 'This part could not be fetched from the server. Once it is back, '}
      <a href={location.href}>{isNew ? 'load the page again' : 'open the page again'}</a>
      {isNew ? '; what you typed is kept.' : ': what you typed is kept.'}
    </p>
  )
}

const orNotHere = <P extends object>(load: Code<P>) => load().catch(() => ({ default: NotHere as ComponentType<P> }))

/** A part of a page whose code comes after the page, and does not take the page away where it can't be had. */
export const later = <P extends object>(load: Code<P>) => lazy(() => orNotHere(load))

/** A stop's code comes when somebody goes there; until it is here the page before it stands. */
export function stopCode(load: Code<object>) {
  stops.push(load)
  return async () => ({ Component: (await orNotHere(load)).default })
}

/** Once the page stands, fetches the code of all stops, so that they open at once and while the server is away. */
export function useStopsAhead(): void {
  useEffect(() => {
    const waiting = setTimeout(() => stops.forEach((load) => void load().catch(() => undefined)), AHEAD_MS)
    return () => clearTimeout(waiting)
  }, [])
}
