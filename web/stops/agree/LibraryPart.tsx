import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useMemo, useState, type ReactNode } from 'react'
import { Button, Dropdown, Form } from 'react-bootstrap'
import { useRole } from '../../session/useRole'
import { foldedName } from '#core/roll'
import { sightOf } from '#core/roles'
import { editElsewhere } from '#core/scales'
import { routes, type Standard } from '#contract'
import { addressOf } from '../../api/client'
import { problemOf } from '../../api/problem-of'
import { meQuery } from '../../session/ahead'
import { useKeys } from '../../settings/keys'
import { useHeadingAfter } from '../../shell/heading'
import { ask } from '../../saving/ask'
import { WriteProblem, useWrites } from '../../saving/writes'
import { counted } from '../../parts/format'
import { AttachedWrongly } from './AttachedWrongly'
import { FromTable } from './FromTable'
import { entriesOf, hiddenOf, KINDS, SHOWS_ALL, useLibrary, wordsOf, type Entry, type EntryKind } from './library'
import { ReadOnly } from './ReadOnly'
import { FollowOutcome } from './standings/FollowOutcome'
import { OutcomeMaker } from './OutcomeMaker'
import { RubricMaker } from './RubricMaker'
import { ScaleMaker } from './ScaleMaker'
import { SchemeMaker } from './SchemeMaker'
import { RubricSheet } from './RubricSheet'
import { SetsOfGrades } from './SetsOfGrades'
import { Suggestions } from './Suggestions'
import { Uses } from './Uses'
import { VersionChanges } from './VersionChanges'
import { KeyCap } from '../../settings/KeyCap'
import { CloseUp } from '../../parts/CloseUp'
import styles from './agree.module.css'

const EMPTY: Record<EntryKind, Standard> = {
  rubric: {
    kind: 'rubric',
    title: 'New rubric',
    body: {
      criteria: [
        {
          id: 'c1',
          title: 'First criterion',
          ranges: false,
          penalty: false,
          levels: [
            { points: 0, words: '' },
            { points: 4, words: '' },
          ],
        },
      ],
    },
  },
  scheme: { kind: 'scheme', title: 'New mark scheme', body: { criteria: [{ id: 'c1', title: 'First part', max: 10, words: '' }] } },
  scale: {
    kind: 'scale',
    title: 'New scale',
    body: {
      labels: [
        { label: 'not yet', percent: 30, threshold: 0 },
        { label: 'sound', percent: 60, threshold: 45 },
        { label: 'strong', percent: 85, threshold: 72.5 },
      ],
    },
  },
  outcome: {
    kind: 'outcome',
    title: 'New outcome',
    body: {
      statement: '',
      levels: ['not yet', 'with help', 'alone', 'for others'].map((label) => ({ label, words: '' })),
      reached: 3,
      rule: { kind: 'latest' },
    },
  },
}

/** The department's library, and makers for what is in it. */
export function LibraryPart({ courseId, nav }: { courseId: string; nav: ReactNode }) {
  const library = useLibrary(courseId)
  const me = useQuery(meQuery)
  const role = useRole(courseId)
  const queries = useQueryClient()
  const { write } = useWrites()
  const [chosenId, setChosen] = useState<string | null>(null)
  const [find, setFind] = useState('')
  const [kind, setKind] = useState<EntryKind | 'all'>('all')
  const [retired, setRetired] = useState(false)
  const [view, setView] = useState<'maker' | 'sheet'>('maker')
  const [reading, setReading] = useState(false)
  const { decides: lead, oversees } = sightOf(role)
  const all = useMemo(() => (library.data ? entriesOf(library.data) : []), [library.data])
  const shown = useMemo(() => {
    const wanted = foldedName(find)
    return all.filter(
      (e) =>
        (kind === 'all' || e.kind === kind) &&
        (retired || e.standard.state !== 'retired') &&
        (wanted === '' || wordsOf(e, library.data?.outcomes).includes(wanted)),
    )
  }, [all, find, kind, retired, library.data])
  const chosen = all.find((e) => e.standard.id === chosenId) ?? shown[0]
  useHeadingAfter(chosen?.standard.id)
  const own = (e: Entry) => lead && e.standard.ownerId === me.data?.id
  const makes = !!chosen && own(chosen) && chosen.standard.state !== 'retired'
  const elsewhere = makes ? editElsewhere({ ...chosen.standard, kind: chosen.kind }, courseId) : null
  // What is hidden while they mark is not to be looked up here.
  const hides = chosen ? hiddenOf(chosen) : SHOWS_ALL
  const whole = !hides.points && !hides.words
  const step = (by: number) => {
    const at = shown.findIndex((e) => e === chosen)
    setChosen(shown[Math.max(0, Math.min(shown.length - 1, at + by))]?.standard.id ?? null)
  }
  const moved = useCallback((id: string) => setChosen(id), [])
  useKeys([
    { key: 'ArrowDown', does: 'next in the library', run: () => step(1) },
    { key: 'ArrowUp', does: 'one before', run: () => step(-1) },
    { key: 'v', does: 'the maker, or as students see it', run: () => setView((v) => (v === 'maker' ? 'sheet' : 'maker')) },
    ...(lead ? [{ key: 't', does: 'make a rubric from a table', run: () => setReading(true) }] : []),
  ])
  const problem = problemOf(library)
  if (problem) return <div className="empty">{problem}</div>
  if (!library.data) return <div className="empty">Fetching the library…</div>

  const add = async (standard: Standard, source: string | null = null) => {
    const made = await write('add to the library', ask(routes.addStandard, { params: { courseId }, body: { standard, source } }))
    if (made) setChosen(made.id)
    setView('maker')
  }
  const copy = async (e: Entry) => {
    const made = await write(`copy ${e.standard.title}`, ask(routes.copyStandard, { params: { courseId, standardId: e.standard.id } }))
    if (made) setChosen(made.id)
  }
  const setState = (e: Entry, state: Entry['standard']['state']) =>
    void write(
      `${e.standard.title} ${state}`,
      ask(routes.setStandardState, { params: { courseId, standardId: e.standard.id }, body: { state } }),
      () => ask(routes.setStandardState, { params: { courseId, standardId: e.standard.id }, body: { state: e.standard.state } }),
    )

  return (
    <div className="work">
      <main className="table-side">
        <div className={`${styles.partsLine} no-print`}>{nav}</div>
        <WriteProblem />
        {lead && <AttachedWrongly courseId={courseId} library={library.data} />}
        {elsewhere && <p className="note">{elsewhere}</p>}
        {!chosen ? (
          <div className="empty">
            {all.length > 0
              ? 'Nothing in the library is called that.'
              : 'The library is empty. Rubrics, mark schemes and scales that the department shares will stand here.'}
          </div>
        ) : view === 'sheet' && whole ? (
          <RubricSheet entry={chosen} />
        ) : !makes ? (
          <ReadOnly entry={chosen} outcomes={library.data.outcomes} hides={hides} />
        ) : chosen.kind === 'rubric' ? (
          <RubricMaker
            key={chosen.standard.lineId}
            courseId={courseId}
            rubric={chosen.standard}
            outcomes={library.data.outcomes}
            onMoved={moved}
          />
        ) : chosen.kind === 'scheme' ? (
          <SchemeMaker key={chosen.standard.lineId} courseId={courseId} scheme={chosen.standard} onMoved={moved} />
        ) : chosen.kind === 'scale' ? (
          <ScaleMaker key={chosen.standard.lineId} courseId={courseId} scale={chosen.standard} onMoved={moved} />
        ) : (
          <OutcomeMaker key={chosen.standard.lineId} courseId={courseId} outcome={chosen.standard} onMoved={moved} />
        )}
      </main>
      <CloseUp className="no-print">
        <section>
          <h2>The department’s library</h2>
          <div className="d-flex gap-2 align-items-baseline mb-1">
            <Form.Control
              size="sm"
              placeholder="Find a title, word, outcome, owner"
              aria-label="Find in the library"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            <Form.Select size="sm" aria-label="Kind" value={kind} onChange={(e) => setKind(e.target.value as EntryKind | 'all')}>
              <option value="all">all</option>
              {Object.entries(KINDS).map(([k, words]) => (
                <option key={k} value={k}>
                  {words}
                </option>
              ))}
            </Form.Select>
          </div>
          <ul className={`people ${styles.library}`} aria-label="The library">
            {shown.map((e) => (
              <li key={e.standard.id}>
                <button className="row-name" aria-pressed={e === chosen} onClick={() => setChosen(e.standard.id)}>
                  {e.standard.title}
                </button>
                <span className="soft small text-nowrap">
                  {own(e) && e.standard.suggestions.some((g) => !g.answer) && <b className="ochre">suggested · </b>}
                  {e.standard.state !== 'ready' && <i>{e.standard.state} · </i>}
                  {KINDS[e.kind]} · {counted(e.standard.uses.length, 'use')}
                </span>
              </li>
            ))}
          </ul>
          {all.some((e) => e.standard.state === 'retired') && (
            <Form.Check
              id="with-retired"
              className="small"
              label="retired ones too"
              checked={retired}
              onChange={(e) => setRetired(e.target.checked)}
            />
          )}
          {lead && (
            <div className="buttons mt-2">
              <Dropdown>
                <Dropdown.Toggle size="sm" variant="outline-primary">
                  Make a new…
                </Dropdown.Toggle>
                <Dropdown.Menu>
                  {Object.entries(KINDS).map(([k, words]) => (
                    <Dropdown.Item key={k} onClick={() => void add(EMPTY[k as EntryKind])}>
                      {words}
                    </Dropdown.Item>
                  ))}
                </Dropdown.Menu>
              </Dropdown>
              <Button size="sm" variant="outline-primary" onClick={() => setReading(true)}>
                From a table <KeyCap cap="t" />
              </Button>
            </div>
          )}
        </section>
        {oversees && <SetsOfGrades courseId={courseId} wanted={foldedName(find)} decides={lead} />}
        {chosen && (
          <>
            <Uses courseId={courseId} entry={chosen} decides={lead} />
            {oversees && chosen.kind === 'outcome' && <FollowOutcome outcomeId={chosen.standard.id} />}
            {chosen.kind === 'rubric' && whole && <VersionChanges key={chosen.standard.id} courseId={courseId} rubric={chosen.standard} />}
            {role !== 'external' && (
              <Suggestions
                key={`suggest ${chosen.standard.id}`}
                courseId={courseId}
                entry={chosen}
                own={own(chosen)}
                copy={all.find((e) => e.standard.copiedFrom === chosen.standard.id && own(e)) ?? null}
                onMoved={moved}
              />
            )}
            <section>
              <h2>What can be done with it</h2>
              <p className="soft small mb-1">
                Version {chosen.standard.version}, {chosen.standard.state}, owned by {chosen.standard.owner}.
                {chosen.standard.read && makes && ' Readings use this version, so it stays as it is: an edit makes the next one.'}
              </p>
              <div className="buttons">
                {makes && chosen.standard.state === 'draft' && (
                  <Button size="sm" onClick={() => setState(chosen, 'ready')}>
                    Make it ready
                  </Button>
                )}
                {makes && chosen.standard.state === 'ready' && (
                  <Button size="sm" variant="outline-primary" onClick={() => setState(chosen, 'retired')}>
                    Retire it
                  </Button>
                )}
                {lead && chosen.standard.ownerId === me.data?.id && chosen.standard.state === 'retired' && (
                  <Button size="sm" variant="outline-primary" onClick={() => setState(chosen, 'ready')}>
                    Bring it back
                  </Button>
                )}
                {lead && (
                  <Button size="sm" variant="outline-primary" onClick={() => void copy(chosen)}>
                    Take a copy
                  </Button>
                )}
                {whole && (
                  <Button size="sm" variant="outline-primary" onClick={() => setView((v) => (v === 'maker' ? 'sheet' : 'maker'))}>
                    {view === 'maker' ? 'As students see it' : 'Back'} <KeyCap cap="v" />
                  </Button>
                )}
                {whole && (
                  <Dropdown>
                    <Dropdown.Toggle size="sm" variant="outline-primary">
                      Take it out
                    </Dropdown.Toggle>
                    <Dropdown.Menu>
                      {(
                        [
                          [routes.standardCsv, 'CSV'],
                          [routes.standardXlsx, 'XLSX'],
                          [routes.standardCase, 'CASE 1.1 JSON'],
                          [routes.standardPackage, 'Data Package'],
                        ] as const
                      ).map(([route, words]) => (
                        <Dropdown.Item key={words} href={addressOf(route, { courseId, standardId: chosen.standard.id })} download>
                          {words}
                        </Dropdown.Item>
                      ))}
                      {chosen.kind === 'outcome' && (
                        <Dropdown.Item href={addressOf(routes.outcomesCase, { courseId })} download>
                          All outcomes with their groups, CASE 1.1 JSON
                        </Dropdown.Item>
                      )}
                    </Dropdown.Menu>
                  </Dropdown>
                )}
              </div>
            </section>
          </>
        )}
      </CloseUp>
      {reading && (
        <FromTable
          courseId={courseId}
          onClose={() => setReading(false)}
          onMade={async (standard, source) => {
            if (standard) await add(standard, source)
            else await queries.invalidateQueries({ queryKey: ['library'] })
            setReading(false)
          }}
        />
      )}
    </div>
  )
}
