import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { Button } from 'react-bootstrap'
import { MOST_HAND_IN_BYTES, MOST_HAND_INS } from '#core/roll'
import { routes, type OwnWork } from '#contract'
import { call, messageOf } from '../api/client'
import { base64Of } from '../api/stream'
import { counted, shownAt } from '../parts/format'
import styles from './student.module.css'

/** Bytes: more than the server takes is not sent first. */
const MOST = 10_000_000

interface Props {
  courseId: string
  work: OwnWork['work'][number]
  handIn: NonNullable<OwnWork['work'][number]['handIn']>
}

/** Work handed in here, with its receipts. */
export function HandIn({ courseId, work, handIn: { open, why, attempts } }: Props) {
  const queries = useQueryClient()
  const picker = useRef<HTMLInputElement>(null)
  const send = useMutation({
    mutationFn: async (file: File) => {
      if (file.size > MOST) throw new Error(`${file.name} is over 10 MB: save it smaller, as a PDF without large pictures.`)
      return call(routes.handIn, {
        params: { courseId, assessmentId: work.id },
        body: { fileName: file.name, file: await base64Of(file) },
      })
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['own work', courseId] }),
  })
  const done = send.data
  return (
    <section aria-label={`Handing in ${work.assessment}`}>
      <h2>{attempts.length > 0 ? 'What you handed in' : 'Hand in'}</h2>
      {attempts.length > 0 && (
        <ol className={styles.receipts}>
          {attempts.map((a, i) => (
            <li key={a.at + a.hash}>
              <b>{a.fileName}</b>{' '}
              <span className="soft small">
                {shownAt(a.at, 'EEE d MMM, HH:mm')}
                {a.daysLate > 0 && `, ${counted(a.daysLate, 'day')} late`}
                {attempts.length > 1 && i === attempts.length - 1 && ' · the version that counts'}
              </span>
              <br />
              <code>
                <span className="visually-hidden">Receipt, SHA-256: </span>
                {a.hash}
              </code>
            </li>
          ))}
        </ol>
      )}
      {open ? (
        <>
          <input
            ref={picker}
            type="file"
            className="visually-hidden"
            tabIndex={-1}
            aria-label={`File of ${work.assessment}`}
            accept=".pdf,.txt,.md,application/pdf,text/plain"
            onChange={(e) => {
              const file = e.target.files?.[0]
              // The same file may be picked again after it was refused.
              e.target.value = ''
              if (file) send.mutate(file)
            }}
          />
          <Button size="sm" variant="outline-primary" disabled={send.isPending} onClick={() => picker.current?.click()}>
            {send.isPending ? 'Handing in…' : attempts.length > 0 ? 'Hand in a new version' : 'Choose a file and hand it in'}
          </Button>
          <p className="soft small mt-1">
            Text or PDF, up to 10 MB. Up to {MOST_HAND_INS} versions of {MOST_HAND_IN_BYTES / 1e6} MB together are taken
            {attempts.length > 0 && `; this would be number ${attempts.length + 1}`}.{' '}
            {attempts.length > 0 ? 'The latest version is what is read.' : 'You get a receipt, and may hand in again.'}
          </p>
        </>
      ) : (
        <p className="soft">{why}</p>
      )}
      {send.error && (
        <p className="note bad" role="alert">
          {messageOf(send.error)}
        </p>
      )}
      <p role="status" className={done ? undefined : 'visually-hidden'}>
        {done &&
          `${done.fileName} is handed in${done.daysLate > 0 ? `, ${counted(done.daysLate, 'day')} late` : ', in time'}. The receipt stands above.`}
      </p>
    </section>
  )
}
