import { useEffect, useRef, useState, type ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { useKeys } from '../settings/keys'
import { nextOf } from './PartsNav'

/**
 * The parts of a stop that its address tells apart, chosen at its head or walked by a key; the first needs no word in the address.
 * @param stop the stop
 * @param keeps what else of the address goes along from part to part
 */
export function useParts<P extends string>(
  stop: string,
  parts: readonly P[],
  key: string,
  keeps: readonly string[] = [],
): { shown: P; go: (part: P) => void; nav: ReactNode } {
  const [search, setSearch] = useSearchParams()
  const addressed = parts.find((p) => p === search.get('part')) ?? parts[0]!
  // The address follows a moment later; the next key steps on from here, and not from there.
  const [shown, setShown] = useState(addressed)
  const onItsWay = useRef<P | null>(null)
  useEffect(() => {
    if (onItsWay.current === null) setShown(addressed)
    else if (onItsWay.current === addressed) onItsWay.current = null
  }, [addressed])
  const go = (part: P) => {
    setShown(part)
    onItsWay.current = part === addressed ? null : part
    const kept = [...search].filter(([name]) => keeps.includes(name))
    setSearch([...(part === parts[0] ? [] : [['part', part] as [string, string]]), ...kept], { replace: true })
  }
  useKeys([{ key, does: 'the next part of this stop', run: () => go(nextOf(parts, shown)) }])
  const nav = (
    <div className="words-choice at-end no-print" role="group" aria-label={`Parts of ${stop}`}>
      {parts.map((p) => (
        <button key={p} aria-pressed={p === shown} onClick={() => go(p)}>
          {p}
        </button>
      ))}
    </div>
  )
  return { shown, go, nav }
}
