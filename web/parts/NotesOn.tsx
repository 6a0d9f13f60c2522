import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { routes, type Note, type NoteAbout } from '#contract'
import { call } from '../api/client'
import { useDecidedCourse } from '../course/course'
import { ask } from '../saving/ask'
import { useWrites } from '../saving/writes'
import { counted, shownAt } from './format'
import { WordsForm } from './WordsForm'

/** Notes on a section, a marker, a script or a decision: left by whoever oversees the course, answered by its lead, kept for good. */
export function NotesOn({ about }: { about: NoteAbout }) {
  const { id } = useDecidedCourse()
  const { write } = useWrites()
  const notes = useQuery({ queryKey: ['notes', id], queryFn: () => call(routes.notes, { params: { courseId: id } }) })
  const own = (notes.data ?? []).filter(
    (n) => n.about.kind === about.kind && n.about.id === about.id && n.about.assessmentId === about.assessmentId,
  )
  const [writing, setWriting] = useState(false)
  const leave = async (words: string) => {
    const done = await write('leave a note', ask(routes.leaveNote, { params: { courseId: id }, body: { about, words } }))
    if (done) setWriting(false)
    return done !== null
  }
  return (
    <section aria-label="Notes">
      {own.length > 0 && <h2>{counted(own.length, 'note')}</h2>}
      {own.map((n) => (
        <OneNote key={n.id} note={n} courseId={id} />
      ))}
      {writing ? (
        <WordsForm
          what="Your note"
          action="Leave it"
          draft={`note ${about.kind} ${about.id} ${about.assessmentId}`}
          onSend={leave}
          onClose={() => setWriting(false)}
        />
      ) : (
        <button className="quiet-button" onClick={() => setWriting(true)}>
          Leave a note
        </button>
      )}
    </section>
  )
}

function OneNote({ note: n, courseId }: { note: Note; courseId: string }) {
  const { mayDecide } = useDecidedCourse()
  const { write } = useWrites()
  const [answering, setAnswering] = useState(false)
  const answer = async (words: string) => {
    const done = await write('answer a note', ask(routes.answerNote, { params: { courseId, noteId: n.id }, body: { words } }))
    if (done) setAnswering(false)
    return done !== null
  }
  return (
    <div className="mb-2">
      <p className="mb-0" dir="auto">
        {n.words}
      </p>
      <p className="soft small mb-1">
        {n.by}, {shownAt(n.at, 'd MMM, HH:mm')}
      </p>
      {n.answer ? (
        <blockquote className="note mb-0 py-1">
          <span dir="auto">{n.answer.words}</span>{' '}
          <span className="soft small">
            {n.answer.by}, {shownAt(n.answer.at, 'd MMM, HH:mm')}
          </span>
        </blockquote>
      ) : mayDecide && answering ? (
        <WordsForm what="Your answer" action="Answer" draft={`answer ${n.id}`} onSend={answer} onClose={() => setAnswering(false)} />
      ) : mayDecide ? (
        <button className="quiet-button" onClick={() => setAnswering(true)}>
          Answer
        </button>
      ) : (
        <span className="ochre small">not answered yet</span>
      )}
    </div>
  )
}
