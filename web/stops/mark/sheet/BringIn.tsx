import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Dialog, DialogTitle } from '../../../parts/Dialog'
import { routes, type BroughtIn, type MarksUpload, type TriedImport } from '#contract'
import { call, messageOf } from '../../../api/client'
import { base64Of } from '../../../api/stream'
import { MarksMatch } from './MarksMatch'
import { useSaved } from '../../../saving/saved'
import { counted } from '../../../parts/format'
import { FileField, MOST_FILE } from '../../../parts/FileField'
import { SheetsRead } from '../../../parts/SheetsRead'

/** A file of marks: tried first, row by row; then all of it or nothing. */
export function BringIn({
  courseId,
  titles,
  onBroughtIn,
  onClose,
}: {
  courseId: string
  /** Of the assessments that marks can be of. */
  titles: readonly string[]
  onBroughtIn: (changed: NonNullable<BroughtIn['changed']>, file: string) => void
  onClose: () => void
}) {
  const queries = useQueryClient()
  const { saving } = useSaved()
  const [text, setText] = useState('')
  const [upload, setUpload] = useState<MarksUpload>({ text: '' })
  const [name, setName] = useState('')
  const [tried, setTried] = useState<TriedImport | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const [leaving, setLeaving] = useState(false)
  const latest = useRef<MarksUpload>(upload)

  const tryIt = async (body: MarksUpload) => {
    latest.current = body
    // What was matched by hand is answered anew, and stands meanwhile.
    if (!body.match) setTried(null)
    setLeaving(false)
    setProblem(null)
    setUpload(body)
    setBusy(true)
    // Of another file chosen meanwhile, this answer says nothing.
    const stillWanted = () => latest.current === body
    try {
      const answer = await call(routes.tryImport, { params: { courseId }, body })
      if (stillWanted()) setTried(answer)
    } catch (e) {
      if (stillWanted()) setProblem(messageOf(e))
    }
    if (stillWanted()) setBusy(false)
  }
  const open = async (file: File) => {
    setName(file.name)
    if (file.size > MOST_FILE) return setProblem(`${file.name} is over 12 MB. Bring it in section by section.`)
    setText('')
    await tryIt({ file: await base64Of(file) })
  }
  const bringIn = async () => {
    setBusy(true)
    try {
      const { changed } = await saving(
        call(routes.bringIn, { params: { courseId }, body: leaving ? { ...upload, leaveOut: refused } : upload }),
      )
      await Promise.all(['sheet', 'table'].map((key) => queries.invalidateQueries({ queryKey: [key, courseId] })))
      if (changed) onBroughtIn(changed, name || 'a pasted file')
      onClose()
    } catch (e) {
      setProblem(messageOf(e))
      setBusy(false)
    }
  }
  const refused = tried?.counts.refused ?? 0
  const changes = tried ? tried.counts.added + tried.counts.changed : 0
  return (
    <Dialog onClose={onClose} size="xl" scrollable>
      <Modal.Header closeButton>
        <DialogTitle>Bring in a file of marks</DialogTitle>
      </Modal.Header>
      <Modal.Body style={{ minHeight: 380 }}>
        <div className="d-flex gap-3 align-items-end flex-wrap">
          <FileField
            id="marks-file"
            label="CSV, XLSX, zipped results or a data package: a column that says whose, and one for each assessment"
            accept=".csv,.tsv,.txt,.xlsx,.zip,text/csv"
            first
            onFile={(file) => void open(file)}
          />
          <span className="soft small">or paste it:</span>
          <Form.Control
            as="textarea"
            rows={1}
            style={{ flex: 1, minWidth: 200 }}
            aria-label="Paste the file’s text"
            value={name ? '' : text.slice(0, 2000)}
            placeholder={name || 'candidate,Stereo heights'}
            onChange={(e) => {
              setName('')
              setText(e.target.value)
              setTried(null)
            }}
            onPaste={(e) => {
              e.preventDefault()
              const pasted = e.clipboardData.getData('text/plain')
              setName('')
              setText(pasted)
              void tryIt({ text: pasted })
            }}
          />
          <Button variant="outline-primary" disabled={busy || text.trim() === ''} onClick={() => void tryIt({ text })}>
            Try it
          </Button>
        </div>
        {problem && (
          <p className="note bad mt-3" role="alert">
            {problem}
          </p>
        )}
        {busy && !tried && <p className="soft mt-3">Reading {name || 'the text'}…</p>}
        {tried && (
          <>
            <p className="mt-3 mb-2" role="status">
              <b>{tried.counts.added}</b> added · <b>{tried.counts.changed}</b> changed · <b>{tried.counts.unchanged}</b> unchanged ·{' '}
              <b className={tried.counts.refused > 0 ? 'brick' : ''}>{tried.counts.refused}</b> refused
              {tried.counts.refused > 0 && (
                <span className="brick">
                  {' '}
                  — nothing is brought in while a row is refused. Mend the file and choose it again, or leave out what is refused.
                </span>
              )}
            </p>
            <SheetsRead sheets={tried.sheets} onChoose={(sheets) => void tryIt({ ...upload, match: { sheets } })} />
            {tried.table && (
              <MarksMatch
                table={tried.table}
                titles={titles}
                onMatch={(match) =>
                  void tryIt({ ...upload, match: { ...(upload.match?.sheets && { sheets: upload.match.sheets }), ...match } })
                }
              />
            )}
            {tried.notes.map((note) => (
              <p key={note} className="note mb-2">
                {note}
              </p>
            ))}
            {refused > 0 && changes > 0 && (
              <Form.Check
                id="leave-refused-out"
                className="mb-2"
                label={`leave out ${refused === 1 ? 'the row that is' : `the ${refused} rows that are`} refused, and bring in the rest`}
                checked={leaving}
                onChange={(e) => setLeaving(e.target.checked)}
              />
            )}
            <table className="grid">
              <thead>
                <tr>
                  <th className="number">line</th>
                  <th>assessment</th>
                  <th>candidate</th>
                  <th>was</th>
                  <th>becomes</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {tried.rows.map((r, i) => (
                  <tr key={i}>
                    <td className="number">{r.line}</td>
                    <td>{r.assessment || r.column || '–'}</td>
                    <td>{r.candidate}</td>
                    <td className="soft">{r.before || 'blank'}</td>
                    <td>
                      <b>{r.after}</b>
                    </td>
                    <td className={r.outcome === 'refused' ? 'brick' : 'soft'}>{r.reason ?? r.outcome}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {tried.unlisted > 0 && <p className="soft">and {tried.unlisted} more</p>}
          </>
        )}
        {!tried && !problem && !busy && (
          <p className="soft mt-4" style={{ maxWidth: '62ch' }}>
            Nothing changes until you have seen what the file would do. Comma, semicolon or tab; a cell holds a mark, or late, missing,
            absent, exempt or held; “17 late 2” is two days late; an empty cell leaves the mark alone. A sheet that was taken out here and
            filled in elsewhere is merged: what others changed meanwhile stays.
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Close
        </Button>
        <Button disabled={busy || !tried || (refused > 0 && !leaving) || changes === 0} onClick={() => void bringIn()}>
          Bring in {tried && (refused === 0 || leaving) ? counted(changes, 'mark') : ''}
        </Button>
      </Modal.Footer>
    </Dialog>
  )
}
