import { format } from 'date-fns'
import { Redo2, Undo2 } from 'lucide-react'
import { useKeys } from '../settings/keys'
import { useNames } from '../settings/names'
import { useSaved } from '../saving/saved'
import { useUndo } from '../saving/undo'
import styles from './head.module.css'

/** What whoever works on a course has at hand everywhere: names or numbers, whether it is saved, undo and redo. */
export function HeadTools() {
  const { shown, turn } = useNames()
  useKeys([{ key: 'N', does: 'names or candidate numbers', run: turn }])
  return (
    <>
      <button className={styles.quiet} onClick={turn} aria-pressed={shown === 'numbers'} title="Show names or candidate numbers (N)">
        {shown === 'names' ? <b>Names</b> : 'Names'} · {shown === 'numbers' ? <b>numbers</b> : 'numbers'}
      </button>
      <SavedTools />
    </>
  )
}

/** Whether it is saved, undo and redo. */
export function SavedTools() {
  const { undo, redo, undoes, redoes } = useUndo()
  useKeys([
    { key: 'Ctrl+z', does: 'undo, whatever it was', run: undo },
    { key: 'Ctrl+y', does: 'redo', run: redo },
    { key: 'Ctrl+Shift+z', does: 'redo', run: redo },
  ])
  return (
    <>
      <SavedState />
      <span>
        <button
          className={styles.quiet}
          disabled={!undoes}
          onClick={undo}
          title={undoes ? `Undo: ${undoes} (Ctrl+Z)` : 'Nothing to undo'}
          aria-label={undoes ? `Undo: ${undoes}` : 'Undo'}
        >
          <Undo2 size={16} aria-hidden />
        </button>
        <button
          className={styles.quiet}
          disabled={!redoes}
          onClick={redo}
          title={redoes ? `Redo: ${redoes} (Ctrl+Y)` : 'Nothing to redo'}
          aria-label={redoes ? `Redo: ${redoes}` : 'Redo'}
        >
          <Redo2 size={16} aria-hidden />
        </button>
      </span>
    </>
  )
}

function SavedState() {
  const { state } = useSaved()
  return (
    <span
      role="status"
      className={`small ${state.kind === 'failed' ? 'brick' : 'soft'}`}
      title={state.kind === 'failed' ? state.why : undefined}
    >
      {state.kind === 'saving'
        ? 'saving…'
        : state.kind === 'failed'
          ? '✕ not saved'
          : state.at
            ? `✓ saved ${format(state.at, 'HH:mm')}`
            : '✓ saved'}
    </span>
  )
}
