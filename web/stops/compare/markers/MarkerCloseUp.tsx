import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { routes } from '#contract'
import { call } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { AskForReadings } from '../../../parts/AskForReadings'
import { NotesOn } from '../../../parts/NotesOn'
import { counted, signed } from '../../../parts/format'
import { tuned } from '../../../parts/tuned'
import { Vial } from '../../../parts/Vial'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import type { LeansByCriterion } from '../criteria/figures'
import type { ComparedMarker, ComparedMarkers } from './figures'
import { leaningCriteria, lineOf, spreadInWords } from './words'
import { Web } from './Web'

interface Props {
  compared: ComparedMarkers
  marker: ComparedMarker
  leans: LeansByCriterion | undefined
  onChoose: (id: string) => void
}

/** One marker in depth: how they lean and where, how they were tuned, whom they share scripts with, and what can be done. */
export function MarkerCloseUp({ compared, marker, leans, onChoose }: Props) {
  const { id, mayDecide, table } = useDecidedCourse()
  const { write } = useWrites()
  const [sent, setSent] = useState<string | null>(null)
  const [asking, setAsking] = useState(false)
  const [asked, setAsked] = useState(0)
  const line = lineOf(marker, compared, leaningCriteria(marker, leans))
  const send = async () => {
    const body = { subject: `${table.head.code} ${table.head.title}: how you marked ${compared.title}`, words: line }
    const done = await write(
      'send a line',
      ask(routes.writeToMarker, { params: { courseId: id, personId: marker.id }, body }, () => setSent(marker.id)),
    )
    if (done === null) return
    setSent(marker.id)
  }
  const read = compared.readBy[marker.id] ?? []
  return (
    <>
      <section>
        <h2 className="d-flex align-items-center gap-2 flex-wrap">
          {marker.name}
          <Vial name={marker.name} lean={marker.lean} interval={marker.interval} tolerance={compared.tolerance} unit={compared.unit} />
        </h2>
        <p>
          {line} <Tuned marker={marker} compared={compared} />
        </p>
        <p className="small soft mb-0">Own spread: {spreadInWords(marker.fit)}</p>
      </section>
      <section data-drawn="">
        <Web compared={compared} chosenId={marker.id} onChoose={onChoose} />
      </section>
      {mayDecide && (
        <section>
          <div className="d-flex flex-wrap gap-2">
            <Button size="sm" onClick={() => setAsking(true)} disabled={read.length === 0}>
              Have {counted(Math.min(FEW, read.length), 'script')} read again
            </Button>
            <Button size="sm" variant="outline-primary" onClick={() => void send()}>
              Send them their line
            </Button>
          </div>
          <p className="small soft mt-1" role="status">
            {asked > 0 && `${counted(asked, 'reading')} asked for. `}
            {sent === marker.id ? 'Sent: it stands in the post.' : 'Their line is the sentence above, and nothing of anybody else.'}
          </p>
        </section>
      )}
      <NotesOn about={{ kind: 'marker', id: marker.id, assessmentId: compared.unit === 'marks' ? compared.subject : null }} />
      {asking && (
        <AskForReadings
          wanted={read.slice(0, FEW).map((studentId) => ({ assessmentId: compared.subject, studentId, markerId: null }))}
          because={`${marker.name} reads unlike the others: ${counted(Math.min(FEW, read.length), 'script')} to be read again`}
          onClose={() => setAsking(false)}
          onAsked={setAsked}
        />
      )}
    </>
  )
}

/** So many second readings tell whether a lean is one. */
const FEW = 5

/** What the same marker did on the exemplars. */
function Tuned({ marker, compared }: Pick<Props, 'marker' | 'compared'>) {
  const { id, table } = useDecidedCourse()
  const has = table.assessments.some((a) => a.id === compared.subject)
  const exemplars = useQuery({
    queryKey: ['exemplars', id, compared.subject],
    queryFn: () => call(routes.exemplars, { params: { courseId: id, assessmentId: compared.subject } }),
    enabled: has,
  })
  const own = useMemo(() => {
    if (!exemplars.data?.markers) return undefined
    const readings = exemplars.data.markers.flatMap((m) => m.readings.map((r) => ({ ...r, markerId: m.id })))
    return tuned(exemplars.data, readings).markers.find((m) => m.markerId === marker.id)
  }, [exemplars.data, marker.id])
  if (!own || own.lean === null) return null
  return (
    <>
      On {counted(own.read, 'exemplar')} they were <b>{signed(own.lean)}</b>.
    </>
  )
}
