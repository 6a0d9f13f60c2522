import { useMemo, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Dialog, DialogTitle } from '../../parts/Dialog'
import { tablesFromHtml, tablesFromText } from '#core/exchange/html-table'
import { readRubricSheet } from '#core/exchange/rubric-sheet'
import { placeKey, withPoints } from '#core/exchange/unscored'
import { guessLayout, levelsGoDown, rubricFromTable, turned, type RubricLayout } from '#core/exchange/rubric-table'
import { criterionMaximum, levelText, rubricFindings, rubricMaximum } from '#core/scales'
import { routes, type LibraryFile, type RubricCriterion, type Standard } from '#contract'
import { call, messageOf } from '../../api/client'
import { base64Of } from '../../api/stream'
import { counted, numeral } from '../../parts/format'
import { Ruler } from '../../parts/Ruler'
import { FileOutcomes } from './FileOutcomes'
import { KINDS } from './library'
import { OtherStandard } from './OtherStandard'
import { TableLayout } from './TableLayout'
import { UnscoredLevels } from './UnscoredLevels'
import { FileField, MOST_FILE } from '../../parts/FileField'
import styles from './agree.module.css'

type Source = LibraryFile

/** Tables that were pasted: those of a sheet of ours are rubrics already. */
function fromTables(tables: string[][][]): Source {
  const sheets = tables.map((t) => readRubricSheet(t, (n) => `c${n + 1}`))
  return {
    tables: tables.filter((_, i) => !sheets[i]),
    rubrics: sheets.flatMap((s) => (s ? [{ ...s.rubric, title: '', source: null, known: null }] : [])) as Source['rubrics'],
    others: [],
    outcomes: [],
    notes: sheets.flatMap((s) => s?.notes ?? []),
  }
}

/** What can be made of a file, by title; empty where it has none. */
const titlesIn = ({ tables, rubrics, others }: Source): string[] => {
  if (tables.length > 0) return tables.map(() => '')
  return rubrics.length > 0 ? rubrics.map((r) => r.title) : others.map((o) => o.standard.title)
}

const MAX_CRITERIA = 60
const MAX_LEVELS = 60

/** A rubric from a table: pasted from a document or a sheet, or from a file; one says what is what, and watches it become rulers. */
export function FromTable({
  courseId,
  onMade,
  onClose,
}: {
  courseId: string
  /** Null where the file held outcomes alone, which are made already. */
  onMade: (standard: Standard | null, source: string | null) => Promise<void>
  onClose: () => void
}) {
  const [source, setSource] = useState<Source | null>(null)
  const [at, setAt] = useState(0)
  const [title, setTitle] = useState('New rubric')
  const [own, setLayout] = useState<RubricLayout | null>(null)
  /** Whether levels stand in rows, where somebody said so. */
  const [asTurned, setTurned] = useState<boolean | null>(null)
  /** Points that the file does not say, by the place of their level. */
  const [given, setGiven] = useState<Record<string, number>>({})
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)

  /** @param called what it is called where it does not say so itself */
  const take = (found: Source, called?: string) => {
    setSource(found)
    setAt(0)
    setLayout(null)
    setTurned(null)
    setGiven({})
    setProblem(
      found.tables.length + found.rubrics.length + found.others.length + found.outcomes.length === 0
        ? 'There is no table in it: copy the rows and columns of the rubric.'
        : null,
    )
    setTitle((was) => titlesIn(found)[0] || called || was)
  }
  const paste = (e: React.ClipboardEvent) => {
    e.preventDefault()
    try {
      const html = e.clipboardData.getData('text/html')
      const tables = html ? tablesFromHtml(html) : []
      take(fromTables(tables.length > 0 ? tables : tablesFromText(e.clipboardData.getData('text/plain'))))
    } catch (error) {
      setProblem(messageOf(error))
    }
  }
  const open = async (file: File) => {
    if (file.size > MOST_FILE) return setProblem(`${file.name} is over 12 MB: copy the table out of it and paste that.`)
    setBusy(true)
    try {
      const found = await call(routes.readLibraryFile, { params: { courseId }, body: { file: await base64Of(file) } })
      take(found, file.name.replace(/\.[^.]+$/, '').slice(0, 120) || undefined)
    } catch (e) {
      setProblem(messageOf(e))
    }
    setBusy(false)
  }
  const came = source?.tables[at]
  const isTurned = came !== undefined && (asTurned ?? levelsGoDown(came))
  const table = useMemo(() => (came && isTurned ? turned(came) : came), [came, isTurned])
  const layout = useMemo(() => own ?? (table ? guessLayout(table) : null), [own, table])
  const rubric = source?.rubrics[at]
  // A table that has its best level first is shown so as well.
  const whole: Pick<LibraryFile['rubrics'][number], 'bands' | 'descending' | 'alike'> = rubric ?? { descending: !!layout?.descending }
  const criteria = useMemo(() => {
    if (rubric) return withPoints(rubric.criteria, rubric.unscored ?? [], given)
    return table && layout ? (rubricFromTable(table, layout, (n) => `c${n + 1}`) as RubricCriterion[]) : []
  }, [rubric, table, layout, given])
  const unanswered = rubric?.unscored?.some((place) => given[placeKey(place)] === undefined) ?? false
  const mixed = criteria.find((c) => c.levels.some((l) => l.points < 0))
  const over = mixed
    ? `“${mixed.title}” has points above 0 and below it: a criterion gives points, or takes them off. Change them in the table, or leave the row out.`
    : criteria.length > MAX_CRITERIA
      ? `${criteria.length} rows are too many for one rubric, which takes ${MAX_CRITERIA} criteria: leave rows out, or bring the table in in parts.`
      : (criteria.find((c) => c.levels.length > MAX_LEVELS)?.levels.length ?? 0) > 0
        ? `A row has ${Math.max(...criteria.map((c) => c.levels.length))} levels; a criterion takes ${MAX_LEVELS}. Leave columns out, or copy fewer.`
        : null
  const longest = Math.max(1, ...criteria.map(criterionMaximum))
  const findings = criteria.length > 0 ? rubricFindings({ criteria }) : []
  const set = (patch: Partial<RubricLayout>) => layout && setLayout({ ...layout, ...patch })
  const unordered = layout?.points === 'none' && layout.descending === null && !rubric
  const choices = source ? titlesIn(source).length : 0
  const other = source && source.tables.length + source.rubrics.length === 0 ? source.others[at] : undefined
  const known = rubric?.known ?? other?.known
  const outcomesAlone = !!source && choices === 0 && source.outcomes.length > 0
  const named = new Set(criteria.flatMap((c) => c.outcomeIds ?? []))
  const outcomes = source?.outcomes.filter((o) => outcomesAlone || named.has(o.id)) ?? []
  const newOutcomes = outcomes.filter((o) => o.known === null)
  /** Outcomes first, so that criteria can name them by their ids here. */
  const make = async () => {
    setBusy(true)
    try {
      const here = new Map<string, string>()
      for (const { id, title: called, known, ...body } of outcomes) {
        // What is here already is not made once more.
        const made =
          known ??
          (
            await call(routes.addStandard, {
              params: { courseId },
              body: { standard: { kind: 'outcome', title: called, body }, source: id },
            })
          ).id
        here.set(id, made)
      }
      const linked = criteria.map((c) => (c.outcomeIds ? { ...c, outcomeIds: c.outcomeIds.flatMap((id) => here.get(id) ?? []) } : c))
      const { bands, descending, alike } = whole
      const body = { criteria: linked, ...(bands ? { bands } : {}), ...(descending ? { descending } : {}), ...(alike ? { alike } : {}) }
      if (other) await onMade({ ...other.standard, title: title.trim() }, other.source)
      else await onMade(outcomesAlone ? null : { kind: 'rubric', title: title.trim(), body }, rubric?.source ?? null)
    } catch (e) {
      setProblem(messageOf(e))
      setBusy(false)
    }
  }
  return (
    <Dialog onClose={onClose} size="xl" scrollable>
      <Modal.Header closeButton>
        <DialogTitle>A rubric from a table</DialogTitle>
      </Modal.Header>
      <Modal.Body style={{ minHeight: 420 }}>
        <div className="d-flex gap-4 align-items-end flex-wrap">
          <Form.Group controlId="table-paste" className="flex-grow-1">
            <Form.Label className="soft small mb-0">Paste a table copied from a document or a sheet</Form.Label>
            <Form.Control as="textarea" rows={1} autoFocus value="" placeholder="Ctrl+V here" onChange={() => undefined} onPaste={paste} />
          </Form.Group>
          <FileField
            id="table-file"
            label="or a file: DOCX, XLSX, CSV, CASE 1.1 JSON, Data Package"
            accept=".docx,.xlsx,.csv,.tsv,.json,.zip"
            onFile={(file) => void open(file)}
          />
        </div>
        {busy && <p className="soft mt-3">Reading the file…</p>}
        {problem && (
          <p className="note bad mt-3" role="alert">
            {problem}
          </p>
        )}
        {choices > 0 && (
          <div className="d-flex gap-4 align-items-baseline flex-wrap mt-3">
            <Form.Group controlId="table-title" className="flex-grow-1">
              <Form.Label className="soft small mb-0">Title</Form.Label>
              <Form.Control value={title} maxLength={200} onChange={(e) => setTitle(e.target.value)} />
            </Form.Group>
            {choices > 1 && (
              <Form.Group controlId="which-table">
                <Form.Label className="soft small mb-0 d-block">Which of {choices}</Form.Label>
                <Form.Select
                  value={at}
                  onChange={(e) => {
                    const next = Number(e.target.value)
                    setAt(next)
                    setLayout(null)
                    setTurned(null)
                    setGiven({})
                    setTitle((was) => titlesIn(source!)[next] || was)
                  }}
                >
                  {Array.from({ length: choices }, (_, i) => (
                    <option key={i} value={i}>
                      {titlesIn(source!)[i] || `${source!.tables[i]!.length} rows: ${source!.tables[i]![0]!.join(' ').slice(0, 30)}`}
                    </option>
                  ))}
                </Form.Select>
              </Form.Group>
            )}
            {layout && (
              <>
                <Form.Group controlId="table-turned">
                  <Form.Label className="soft small mb-0 d-block">A criterion is</Form.Label>
                  <Form.Select
                    value={isTurned ? 'column' : 'row'}
                    onChange={(e) => {
                      setTurned(e.target.value === 'column')
                      setLayout(null)
                    }}
                  >
                    <option value="row">a row</option>
                    <option value="column">a column</option>
                  </Form.Select>
                </Form.Group>
                <Form.Group controlId="table-points">
                  <Form.Label className="soft small mb-0 d-block">Points are</Form.Label>
                  <Form.Select value={layout.points} onChange={(e) => set({ points: e.target.value as RubricLayout['points'] })}>
                    <option value="heading">{layout.pointsRow === undefined ? 'in the heading' : 'in a row of their own'}</option>
                    <option value="cells">in each cell</option>
                    <option value="none">
                      {layout.maximumColumn === undefined ? 'nowhere: 0, 1, 2 …' : 'spread evenly up to the most'}
                    </option>
                  </Form.Select>
                </Form.Group>
                {layout.points === 'none' && (
                  <Form.Group controlId="table-order">
                    <Form.Label className="soft small mb-0 d-block">First stands</Form.Label>
                    <Form.Select
                      value={layout.descending === null ? '' : layout.descending ? 'best' : 'lowest'}
                      isInvalid={layout.descending === null}
                      onChange={(e) => set({ descending: e.target.value === '' ? null : e.target.value === 'best' })}
                    >
                      {layout.descending === null && <option value="">say which…</option>}
                      <option value="lowest">the lowest level</option>
                      <option value="best">the best level</option>
                    </Form.Select>
                  </Form.Group>
                )}
              </>
            )}
          </div>
        )}
        {unordered && (
          <p className="ochre mt-2 mb-0" role="status">
            Neither points nor names tell which end is the best: say which level stands first, so that none gets 0 unasked.
          </p>
        )}
        {known && (
          <p className="note mt-3 mb-0" role="status">
            {known.same
              ? `It is in the library already, as “${known.title}”, and nothing in it differs.`
              : `It is in the library already, as “${known.title}”, and the file differs from that: made here it stands beside it.`}
          </p>
        )}
        {source?.notes.map((n) => (
          <p className="ochre small mt-2 mb-0" key={n}>
            {n}
          </p>
        ))}
        {table && layout && <TableLayout table={table} layout={layout} onSet={set} />}
        {other && <OtherStandard standard={other.standard} />}
        {rubric?.unscored && (
          <UnscoredLevels
            criteria={rubric.criteria}
            unscored={rubric.unscored}
            given={given}
            onGive={(key, points) => setGiven(({ [key]: _, ...others }) => (points === null ? others : { ...others, [key]: points }))}
          />
        )}
        {outcomes.length > 0 && <FileOutcomes outcomes={outcomes} />}
        {/* What it comes to is known once every level has its points. */}
        {criteria.length > 0 && !unanswered && (
          <>
            <p className="mt-3 mb-1" role="status">
              <b>{counted(criteria.length, 'criterion', 'criteria')}</b>, {numeral(rubricMaximum({ criteria }))} points.{' '}
              {over && <span className="brick">{over} </span>}
              {findings.length > 0 && !over && (
                <span className="ochre">
                  {counted(findings.length, 'thing')} to mend afterwards, beginning with: {findings[0]!.message}
                </span>
              )}
            </p>
            <div className={styles.rulers}>
              {(over || unordered ? [] : criteria.slice(0, 30)).map((c) => (
                <section key={c.id}>
                  <h3>{c.title}</h3>
                  <Ruler
                    title={c.title}
                    longest={longest}
                    sign={c.penalty ? -1 : 1}
                    descending={whole.descending}
                    stops={c.levels.map((l) => ({ points: l.points, to: c.ranges ? l.to : undefined, words: levelText(l) }))}
                  />
                </section>
              ))}
            </div>
            {criteria.length > 30 && !over && <p className="soft">and {criteria.length - 30} more</p>}
          </>
        )}
        {!source && !problem && !busy && (
          <p className="soft mt-4" style={{ maxWidth: '62ch' }}>
            A row is a criterion, a column a level. Points may stand in the heading (“Good (3)”), in the cells (“3: clear”, “2–4 clear”), or
            nowhere; a row or a column may hold them. Merged cells count for all they cover; pictures and markup are left behind.
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Cancel
        </Button>
        <Button
          disabled={
            busy ||
            unordered ||
            unanswered ||
            over !== null ||
            (outcomesAlone ? newOutcomes.length === 0 : criteria.length === 0 && !other) ||
            title.trim() === ''
          }
          onClick={() => void make()}
        >
          {outcomesAlone ? `Make ${counted(newOutcomes.length, 'outcome')}` : `Make the ${other ? KINDS[other.standard.kind] : 'rubric'}`}
        </Button>
      </Modal.Footer>
    </Dialog>
  )
}
