import { useEffect, useRef, useState, type ReactNode } from 'react'
import { useKeys } from '../settings/keys'
import { KeyCap } from '../settings/KeyCap'
import styles from './close-up.module.css'

interface Props {
  /** What is chosen, in depth; nothing where nothing is. */
  children?: ReactNode
  label?: string
  className?: string
  /** Told of the place itself. */
  placeRef?: React.RefObject<HTMLElement | null>
}

/** Of it so much is in sight before it need not be called, in pixels. */
const IN_SIGHT = 120

/**
 * What is chosen, in depth, beside the table. Where there is no room beside it, it stands beneath, and comes up over the table when it
 * is called; it goes away again when one goes on elsewhere.
 */
export function CloseUp({ children, label = 'Close-up', className = '', placeRef }: Props) {
  const own = useRef<HTMLElement>(null)
  const place = placeRef ?? own
  const before = useRef<HTMLElement | null>(null)
  const [isOver, setOver] = useState(false)
  const [isBelow, setBelow] = useState(false)

  useEffect(() => {
    const node = place.current
    if (!node || !('IntersectionObserver' in window)) return
    const seen = new IntersectionObserver(([entry]) => setBelow(!!entry && !entry.isIntersecting && entry.boundingClientRect.top > 0), {
      rootMargin: `0px 0px -${IN_SIGHT}px 0px`,
    })
    seen.observe(node)
    return () => seen.disconnect()
  }, [place])

  const call = () => {
    before.current = document.activeElement as HTMLElement | null
    setOver(true)
    place.current?.focus({ preventScroll: true })
  }
  const putAway = () => {
    setOver(false)
    if (before.current?.isConnected) before.current.focus()
  }
  useKeys([{ key: 'u', does: 'go to the close-up', run: call }])
  return (
    <>
      {children && isBelow && !isOver && (
        <button className={styles.closeUpCall} onClick={call}>
          close-up <KeyCap cap="u" />
        </button>
      )}
      <aside
        className={`close-up${isOver ? ` ${styles.over}` : ''} ${className}`.trimEnd()}
        aria-label={label}
        ref={place}
        tabIndex={-1}
        onKeyDown={(e) => {
          if (!isOver || e.key !== 'Escape' || e.defaultPrevented) return
          e.preventDefault()
          putAway()
        }}
        onBlur={(e) => {
          if (isOver && e.relatedTarget && !e.currentTarget.contains(e.relatedTarget)) setOver(false)
        }}
      >
        {isOver && (
          <button className={`${styles.closeUpAway} quiet-button`} onClick={putAway}>
            put it away <kbd>Esc</kbd>
          </button>
        )}
        {children}
      </aside>
    </>
  )
}
