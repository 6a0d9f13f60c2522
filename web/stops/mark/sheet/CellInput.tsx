import { useLayoutEffect, useRef, useState } from 'react'
import styles from './sheet.module.css'

/** A cell being typed in: Enter goes down, Tab to the right, Esc leaves it as it was. */
export function CellInput({
  label,
  text,
  style,
  onCommit,
  onCancel,
}: {
  label: string
  text: string
  style: React.CSSProperties
  onCommit: (text: string, down: number, right: number) => void
  onCancel: () => void
}) {
  const [value, setValue] = useState(text)
  const left = useRef(false)
  const leave = (down: number, right: number) => {
    if (left.current) return
    left.current = true
    onCommit(value, down, right)
  }
  // When a sign-in ends the sheet unmounts, perhaps in the middle of a mark, and that fires no blur.
  const goes = useRef(() => {})
  goes.current = () => value !== text && leave(0, 0)
  useLayoutEffect(() => () => goes.current(), [])
  return (
    <input
      className={`${styles.cell} number ${styles.typing}`}
      style={style}
      aria-label={label}
      autoFocus
      value={value}
      onChange={(e) => setValue(e.target.value)}
      onBlur={() => leave(0, 0)}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Enter') leave(e.shiftKey ? -1 : 1, 0)
        else if (e.key === 'Tab') leave(0, e.shiftKey ? -1 : 1)
        else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') leave(e.key === 'ArrowDown' ? 1 : -1, 0)
        else if (e.key === 'Escape') {
          left.current = true
          onCancel()
        } else return
        e.preventDefault()
      }}
    />
  )
}
