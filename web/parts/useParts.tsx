import type { ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { useKeys } from '../settings/keys'
import { nextOf } from './PartsNav'

/**
 * The parts of a stop that its address tells apart, chosen at its head or walked by a key; the first needs no word in the address.
 * @param of the stop
 * @param keeps what else of the address goes along from part to part
 */
export function useParts<P extends string>(
  of: string,
  parts: readonly P[],
  key: string,
  keeps: readonly string[] = [],
): { shown: P; go: (part: P) => void; nav: ReactNode } {
  const [search, setSearch] = useSearchParams()
  const shown = parts.find((p) => p === search.get('part')) ?? parts[0]!
  // At once: the next key steps on from here.
  const go = (part: P) => {
    const kept = [...search].filter(([name]) => keeps.includes(name))
    setSearch([...(part === parts[0] ? [] : [['part', part] as [string, string]]), ...kept], { replace: true, flushSync: true })
  }
  useKeys([{ key, does: 'the next part of this stop', run: () => go(nextOf(parts, shown)) }])
  const nav = (
    <div className="words-choice end no-print" role="group" aria-label={`Parts of ${of}`}>
      {parts.map((p) => (
        <button key={p} aria-pressed={p === shown} onClick={() => go(p)}>
          {p}
        </button>
      ))}
    </div>
  )
  return { shown, go, nav }
}
