import { useRef, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Dialog, DialogTitle } from '../../../parts/Dialog'
import type { Encoding, RollField } from '#core/roll'
import { routes, type Plan, type TriedRoll } from '#contract'
import { call, messageOf } from '../../../api/client'
import { base64Of, callStreamed } from '../../../api/stream'
import { useSaved } from '../../../saving/saved'
import { useWrites } from '../../../saving/writes'
import { counted } from '../../../parts/format'
import { ColumnMatch } from './ColumnMatch'
import { dayFor } from './edits'
import { LettersRead } from './LettersRead'
import { RosterClasses } from './RosterClasses'
import { TriedRows } from './TriedRows'
import { DateField } from '../../../parts/DateField'
import { FileField, MOST_FILE } from '../../../parts/FileField'
import { SheetsRead } from '../../../parts/SheetsRead'

interface Chosen {
  name: string
  base64: string
}

/** How a file is to be read; what is left out is told by the file. */
interface How {
  columns?: TriedRoll['columns'] | undefined
  headingLine?: number | undefined
  encoding?: Encoding | undefined
  sheets?: readonly string[] | undefined
  /** Of a roster, the classes that are meant. */
  classes?: readonly string[] | undefined
  from: string
}

/** A roll from a file: tried first, row by row; then all of it or nothing. Can be stopped while it is read. */
export function BringInRoll({ plan, onClose }: { plan: Plan; onClose: () => void }) {
  const courseId = plan.head.id
  const { saving } = useSaved()
  const { write } = useWrites()
  const [file, setFile] = useState<Chosen | null>(null)
  const [from, setFrom] = useState(dayFor(plan.head))
  const [tried, setTried] = useState<TriedRoll | null>(null)
  const [columns, setColumns] = useState<TriedRoll['columns'] | undefined>(undefined)
  const [headingLine, setHeadingLine] = useState<number | undefined>(undefined)
  const [encoding, setEncoding] = useState<Encoding | undefined>(undefined)
  const [sheets, setSheets] = useState<readonly string[] | undefined>(undefined)
  const [classes, setClasses] = useState<readonly string[] | undefined>(undefined)
  /** Whether what is refused is left out on purpose. */
  const [leaveOut, setLeaveOut] = useState(false)
  const [leaving, setLeaving] = useState<ReadonlySet<string>>(new Set())
  const [doing, setDoing] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const stop = useRef<AbortController>(undefined)

  /** Runs one of the two calls with progress; false where it was stopped or refused. */
  const run = async (
    what: 'try' | 'bring in',
    { name, base64 }: Chosen,
    how: How = { columns, headingLine, encoding, sheets, classes, from },
  ): Promise<boolean> => {
    stop.current?.abort()
    const own = (stop.current = new AbortController())
    setProblem(null)
    setDoing('sending')
    const body = {
      file: base64,
      from: how.from,
      ...(how.columns && { columns: how.columns }),
      ...(how.headingLine !== undefined && { headingLine: how.headingLine }),
      ...(how.encoding && { encoding: how.encoding }),
      ...(how.sheets && { sheets: [...how.sheets] }),
      ...(how.classes && { classes: [...how.classes] }),
    }
    const told = (said: string) => !own.signal.aborted && setDoing(said)
    try {
      if (what === 'try') {
        const answer = await callStreamed(routes.tryRoll, { courseId }, body, told, own.signal)
        setTried(answer.tried)
        setLeaving(new Set())
        setLeaveOut(false)
      } else {
        const whole = { ...body, withdraw: [...leaving], leaveOut: leaveOut ? refused : [], name }
        const send = (signal: AbortSignal) => callStreamed(routes.bringInRoll, { courseId }, whole, told, signal)
        let done: Awaited<ReturnType<typeof send>> | null = await saving(send(own.signal))
        // It is done already; done again, it is sent again.
        const again = async () => {
          const first = done
          done = null
          return first ?? send(new AbortController().signal)
        }
        const undo = (of: Awaited<ReturnType<typeof send>>) => call(routes.undoRollFile, { params: { courseId, fileId: of.fileId! } })
        await write(`bring in ${name}`, again, undo)
      }
      setDoing(null)
      return true
    } catch (e) {
      if (own.signal.aborted) return false
      setProblem(messageOf(e))
      setDoing(null)
      return false
    }
  }
  const open = async (chosen: File | undefined) => {
    if (!chosen) return
    setTried(null)
    setColumns(undefined)
    setHeadingLine(undefined)
    setEncoding(undefined)
    setSheets(undefined)
    setClasses(undefined)
    if (chosen.size > MOST_FILE) return setProblem(`${chosen.name} is over 12 MB. Bring it in in parts.`)
    try {
      const base64 = await base64Of(chosen)
      setFile({ name: chosen.name, base64 })
      await run('try', { name: chosen.name, base64 }, { from })
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const match = (next: Partial<Record<RollField, number>>) => {
    setColumns(next)
    if (file) void run('try', file, { columns: next, headingLine, encoding, sheets, from })
  }
  const headIn = (line: number) => {
    setHeadingLine(line)
    // Another heading has other columns.
    setColumns(undefined)
    if (file) void run('try', file, { headingLine: line, encoding, sheets, from })
  }
  const bringIn = async () => {
    if (file && (await run('bring in', file))) onClose()
  }
  const halt = () => {
    stop.current?.abort()
    setDoing(null)
    setProblem('Stopped. Nothing was changed.')
  }
  const n = tried?.counts
  const refused = tried?.rows.filter((r) => r.outcome === 'refused').map((r) => r.line) ?? []
  // Left out is only what was seen: more than are listed are mended in the file.
  const mayLeaveOut = n !== undefined && n.refused > 0 && refused.length === n.refused && tried!.columns.section !== undefined
  const ready = n !== undefined && (n.refused === 0 || (mayLeaveOut && leaveOut))
  const changes = n ? n.added + n.changed + n.moved + n.back + tried.sections.length + leaving.size : 0
  // What a roster teaches is worth bringing in, though nobody moves.
  const learns = ready && changes === 0 && (tried!.roster?.learnt ?? 0) > 0
  return (
    <Dialog onClose={() => (stop.current?.abort(), onClose())} size="xl" scrollable>
      <Modal.Header closeButton>
        <DialogTitle>Bring in a roll</DialogTitle>
      </Modal.Header>
      <Modal.Body
        style={{ minHeight: 420 }}
        onDragOver={(e) => e.preventDefault()}
        onDrop={(e) => {
          e.preventDefault()
          void open(e.dataTransfer.files[0])
        }}
      >
        <div className="d-flex gap-4 align-items-end flex-wrap">
          <FileField
            id="roll-file"
            label="CSV, XLSX, or a zipped OneRoster; choose it or drop it here"
            accept=".csv,.tsv,.txt,.xlsx,.zip"
            first
            onFile={(file) => void open(file)}
          />
          <Form.Group controlId="roll-paste">
            <Form.Label className="soft small mb-0">or paste rows with their heading</Form.Label>
            <Form.Control
              as="textarea"
              rows={1}
              placeholder="candidate, name, section"
              value=""
              onChange={() => undefined}
              onPaste={(e) => {
                e.preventDefault()
                void open(new File([e.clipboardData.getData('text/plain')], 'what was pasted'))
              }}
            />
          </Form.Group>
          <div>
            <Form.Label htmlFor="roll-from" className="soft small mb-0 d-block">
              Moves and new places count from
            </Form.Label>
            <DateField
              id="roll-from"
              value={from}
              term={plan.head}
              onCommit={(day) => {
                if (day === '') return
                setFrom(day)
                if (file) void run('try', file, { columns, headingLine, encoding, sheets, classes, from: day })
              }}
            />
          </div>
        </div>
        {doing !== null && (
          <p className="mt-3 d-flex gap-3 align-items-center" role="status">
            <span className="soft">
              {file?.name}: {doing}…
            </span>
            <Button size="sm" variant="outline-primary" onClick={halt}>
              Stop
            </Button>
          </p>
        )}
        {problem && (
          <p className="note bad mt-3" role="alert">
            {problem}
          </p>
        )}
        {tried && (
          <>
            <p className="mt-3 mb-2" role="status">
              <b>{tried.counts.added}</b> added · <b>{tried.counts.moved}</b> moved · <b>{tried.counts.changed}</b> changed ·{' '}
              {tried.counts.back > 0 && (
                <>
                  <b>{tried.counts.back}</b> back ·{' '}
                </>
              )}
              <b>{tried.counts.unchanged}</b> unchanged · <b className={tried.counts.refused > 0 ? 'brick' : ''}>{tried.counts.refused}</b>{' '}
              refused
              {tried.counts.refused > 0 && !leaveOut && (
                <span className="brick"> — nothing is brought in while a row is refused. Mend the file and choose it again.</span>
              )}
            </p>
            {mayLeaveOut && (
              <Form.Check
                id="leave-refused-out"
                className="mb-2"
                label={`Leave ${n.refused === 1 ? 'the row that is refused' : `the ${n.refused} rows that are refused`} out, and bring in the rest`}
                checked={leaveOut}
                onChange={(e) => setLeaveOut(e.target.checked)}
              />
            )}
            <SectionsNamed words="New sections" sections={tried.sections.filter((s) => s.isNew)} />
            <SectionsNamed words="Sections that change" sections={tried.sections.filter((s) => !s.isNew)} />
            {tried.notes.map((note) => (
              <p key={note} className="note warn">
                {note}
              </p>
            ))}
            {tried.roster && (
              <RosterClasses
                // What was chosen stands before the answer to it has come.
                roster={{
                  ...tried.roster,
                  classes: classes
                    ? tried.roster.classes.map((c) => ({ ...c, chosen: classes.includes(c.sourceId) }))
                    : tried.roster.classes,
                }}
                onChoose={(next) => {
                  setClasses(next)
                  if (file) void run('try', file, { classes: next, from })
                }}
              />
            )}
            <SheetsRead
              sheets={tried.sheets}
              onChoose={(next) => {
                setSheets(next)
                setColumns(undefined)
                setHeadingLine(undefined)
                if (file) void run('try', file, { sheets: next, from })
              }}
            />
            <LettersRead
              tried={tried}
              onEncoding={(next) => {
                setEncoding(next)
                if (file) void run('try', file, { columns, headingLine, encoding: next, from })
              }}
            />
            {/* What was matched by hand stands before the answer to it has come. */}
            <ColumnMatch
              header={tried.header}
              columns={columns ?? tried.columns}
              headingLine={headingLine ?? tried.headingLine}
              onMatch={match}
              onHeading={headIn}
            />
            <TriedRows tried={tried} leaving={leaving} onLeaving={setLeaving} />
          </>
        )}
        {!tried && !problem && doing === null && (
          <p className="soft mt-4" style={{ maxWidth: '64ch' }}>
            Nothing changes until you have seen what the file would do. It needs a candidate number or an external id, a name and a section;
            it may say who teaches a section, when it meets and when it starts. Who is not in the file stays on the roll unless you say
            otherwise.
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Close
        </Button>
        <Button disabled={doing !== null || !ready || (changes === 0 && !learns)} onClick={() => void bringIn()}>
          Bring in {ready && changes > 0 ? counted(changes, 'change') : learns ? 'its ids' : ''}
        </Button>
      </Modal.Footer>
    </Dialog>
  )
}

const NAMED = 12

function SectionsNamed({ words, sections }: { words: string; sections: TriedRoll['sections'] }) {
  if (sections.length === 0) return null
  const names = sections.slice(0, NAMED).map((s) => (s.name === s.code ? s.code : `${s.code} ${s.name}`))
  return (
    <p className="mb-2">
      {words}: <b>{names.join(', ')}</b>
      {sections.length > NAMED && ` and ${sections.length - NAMED} more`}
    </p>
  )
}
