import { Link } from 'react-router'

interface Props<P extends string> {
  /** What they are parts of, for its name. */
  stop: string
  /** Address of the stop, without the part. */
  base: string
  parts: readonly P[]
  shown: P
  /** What is to be looked at in each. */
  open?: Partial<Record<P, number>>
  /** Their addresses, where a part's name is none. */
  addresses?: Record<P, string>
  /** Whether their numbers are their keys. */
  keyed?: boolean
}

/** The part after the one shown, and from the last to the first. */
export const nextOf = <P extends string>(parts: readonly P[], shown: P): P => parts[(parts.indexOf(shown) + 1) % parts.length]!

/** The parts of a stop, at its head. */
export function PartsNav<P extends string>({ stop, base, parts, shown, open = {}, addresses, keyed = false }: Props<P>) {
  return (
    <nav className="at-end words-links" aria-label={`Parts of ${stop}`}>
      {parts.map((p, i) => (
        <Link
          key={p}
          to={`${base}/${addresses?.[p] ?? p}`}
          aria-current={p === shown ? 'page' : undefined}
          title={keyed ? `${p} (${i + 1})` : undefined}
        >
          {p}
          {(open[p] ?? 0) > 0 && <b className="ochre"> {open[p]}</b>}
        </Link>
      ))}
    </nav>
  )
}
