import { ChevronLeft, ChevronRight } from 'lucide-react'
import { Button, Form } from 'react-bootstrap'
import type { Pile, PileScript } from '#contract'
import { problemOf } from '../../../api/problem-of'
import { useKeys } from '../../../settings/keys'
import { DeskScriptView } from './DeskScriptView'
import { useDeskScript } from './queries'
import styles from './desk.module.css'

const STATE = { untouched: '', draft: ' · begun', 'handed in': ' · handed in' }

interface Props {
  courseId: string
  pile: Pile
  scripts: PileScript[]
  current: PileScript
  onGo: (studentId: string) => void
  onLeave: () => void
}

/** One pile being read: the line of scripts at the top, the script and the rulers beneath, both always in sight. */
export function Desk({ courseId, pile, scripts, current, onGo, onLeave }: Props) {
  const at = scripts.findIndex((s) => s.studentId === current.studentId)
  const script = useDeskScript(courseId, pile.assessmentId, current.studentId)
  const problem = problemOf(script)
  const go = (to: number) => {
    const next = scripts[Math.max(0, Math.min(scripts.length - 1, to))]
    if (next) onGo(next.studentId)
  }
  /** The next one that is not handed in, after this one and then from the start: skipped ones come back. */
  const nextOpen = () => {
    const open = [...scripts.slice(at + 1), ...scripts.slice(0, at)].find((s) => s.state !== 'handed in')
    if (open) onGo(open.studentId)
    else onLeave()
  }
  useKeys([
    { key: 'j', does: 'next script', run: () => go(at + 1) },
    { key: 'k', does: 'script before', run: () => go(at - 1) },
    { key: 's', does: 'skip: to the next one that is not handed in', run: nextOpen },
    { key: 'Escape', does: 'back to your piles', run: onLeave },
  ])
  return (
    <div className={`work alone ${styles.deskWork}`}>
      <main className={styles.desk} aria-label={`Reading ${pile.title}`}>
        <header className={styles.deskHead}>
          <button className="quiet-button" onClick={onLeave}>
            your piles
          </button>
          <h1>{pile.title}</h1>
          <div className={styles.deskLine}>
            <Button size="sm" variant="outline-primary" aria-label="Script before" disabled={at === 0} onClick={() => go(at - 1)}>
              <ChevronLeft size={15} aria-hidden />
            </Button>
            <Form.Select size="sm" aria-label="Script" value={current.studentId} onChange={(e) => onGo(e.target.value)}>
              {scripts.map((s, i) => (
                <option key={s.studentId} value={s.studentId}>
                  {i + 1}. {s.label}
                  {s.again ? ' · handed in anew' : STATE[s.state]}
                </option>
              ))}
            </Form.Select>
            <Button
              size="sm"
              variant="outline-primary"
              aria-label="Next script"
              disabled={at === scripts.length - 1}
              onClick={() => go(at + 1)}
            >
              <ChevronRight size={15} aria-hidden />
            </Button>
          </div>
          <span className="soft small">
            {at + 1} of {scripts.length} · {scripts.filter((s) => s.state === 'handed in').length} handed in
          </span>
        </header>
        {problem ? (
          <div className="empty">{problem}</div>
        ) : script.data?.studentId === current.studentId ? (
          <DeskScriptView key={current.studentId} courseId={courseId} script={script.data} onDone={nextOpen} />
        ) : (
          <div className="empty">Fetching the script…</div>
        )}
      </main>
    </div>
  )
}
