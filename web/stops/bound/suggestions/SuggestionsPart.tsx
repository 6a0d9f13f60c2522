import { useQuery } from '@tanstack/react-query'
import { useMemo, useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { checkBoundaries, type Boundary } from '#core/grades'
import type { SuggestedLine } from '#core/bounds'
import { useCourse, useFigures } from '../../../course/course'
import { useEarlierLines } from '../../../parts/useEarlierLines'
import { WorkingOut } from '../../../parts/WorkingOut'
import { fixed, numeral } from '../../../parts/format'
import { useLines } from '../useLines'
import { Judged } from './Judged'
import { SuggestedChart } from './SuggestedChart'
import { BorderlineAsked, GapsAsked, SharesAsked } from './Asked'
import { CouldChart } from './CouldChart'
import type { WayHere } from './figures'
import { lineListsQuery, ListsAsked } from './ListsAsked'
import { WAYS, type WayName } from './ways'
import { CloseUp } from '../../../parts/CloseUp'

const NOBODY_JUDGED: { studentId: string; able: boolean }[] = []

/** Lines that shares, gaps or judgements suggest: drawn with what they were read off, and with how much they move with other students. */
export function SuggestionsPart({ nav }: { nav: ReactNode }) {
  const { id, table, current } = useCourse()
  const lines = useLines()
  const { boundaries } = lines
  const earlier = useEarlierLines()
  const [way, setWay] = useState<WayName>('gaps')
  const [zone, setZone] = useState(3)
  const [shares, setShares] = useState<Record<string, number> | null>(null)
  const judgements = useMemo(() => table.assessments.filter((a) => a.marking === 'judgement'), [table.assessments])
  const [judged, setJudged] = useState<{ grade: string; assessmentId: string; borderline: number | null }>({
    grade: boundaries.at(-2)?.grade ?? '',
    assessmentId: judgements[0]?.id ?? '',
    borderline: null,
  })
  const given = useFigures('judgementsGiven', judged.assessmentId)
  const borderline = judged.borderline ?? given?.[Math.min(1, given.length - 1)]?.judgement ?? 50
  const usual = earlier.find((e) => e.counts.some((c) => c.count > 0))
  const wantedShares = useMemo(() => shares ?? sharesLike(boundaries, usual?.counts), [shares, boundaries, usual])
  const lists = useQuery(lineListsQuery(id))
  const [listId, setList] = useState<string | null>(null)
  const list = lists.data?.find((l) => l.id === listId) ?? lists.data?.find((l) => l.closedAt !== null) ?? lists.data?.[0]
  const asked = useMemo((): WayHere => {
    if (way === 'shares') return { way, shares: boundaries.map(({ grade }) => ({ grade, share: (wantedShares[grade] ?? 0) / 100 })) }
    if (way === 'gaps') return { way, zone }
    if (way === 'contrastingGroups') return { way, grade: list?.grade ?? '', judgements: list?.judgements ?? NOBODY_JUDGED }
    return { way, grade: judged.grade, assessmentId: judged.assessmentId, borderline }
  }, [way, boundaries, wantedShares, zone, judged, borderline, list])
  const suggested = useFigures('suggestedLines', asked)
  const { title, rests } = WAYS[way]
  const sum = boundaries.reduce((n, b) => n + (wantedShares[b.grade] ?? 0), 0)
  const next = suggested ? taken(boundaries, suggested.lines) : boundaries
  const fits = checkBoundaries(next, table.policy.above100).length === 0
  const moves = suggested?.lines.some((l) => l.from !== null && rounded(l.from) !== boundaries.find((b) => b.grade === l.grade)?.from)
  return (
    <div className="work typed-here">
      <main className="table-side">
        <div className="stop-head">
          <h1>{title}</h1>
          {nav}
        </div>
        <WayChoice way={way} onWay={setWay} has={judgements.length > 0} />
        {!suggested ? (
          <WorkingOut />
        ) : (
          <>
            {way === 'contrastingGroups' ? (
              suggested.judged.length > 0 ? (
                <CouldChart {...suggested} />
              ) : (
                <p className="empty">
                  {list && list.closedAt === null
                    ? 'What was said of whom is shown once the list is closed.'
                    : 'Nobody was judged yet. Choose on the right whom to ask about the students near a line.'}
                </p>
              )
            ) : way === 'borderlineRegression' ? (
              <Judged figures={suggested} borderline={borderline} />
            ) : (
              <SuggestedChart result={current} boundaries={boundaries} lines={suggested.lines} />
            )}
            {(way !== 'contrastingGroups' || suggested.judged.length > 0) && (
              <table className="grid mt-2">
                <thead>
                  <tr>
                    <th>grade</th>
                    <th className="number">begins at</th>
                    <th className="number">suggested</th>
                    <th className="number">alike</th>
                    <th className="number">other samples give</th>
                    <th />
                  </tr>
                </thead>
                <tbody>
                  {suggested.lines.map((l) => (
                    <tr key={l.grade}>
                      <td>{l.grade}</td>
                      <td className="number soft">{numeral(boundaries.find((b) => b.grade === l.grade)?.from)}</td>
                      {l.from === null ? (
                        <td colSpan={4} className="soft">
                          {l.why}
                        </td>
                      ) : (
                        <>
                          <td className="number fw-semibold">{numeral(rounded(l.from))}</td>
                          <td className="number soft">{l.same ? `over ${fixed(l.same[0])} to ${fixed(l.same[1])}` : ''}</td>
                          <td className="number soft">{l.band ? `${fixed(l.band[0])} to ${fixed(l.band[1])}` : 'too few'}</td>
                          <td className="text-end">
                            <Button
                              size="sm"
                              variant="link"
                              disabled={rounded(l.from) === boundaries.find((b) => b.grade === l.grade)?.from}
                              aria-label={`Try ${l.grade} at ${numeral(rounded(l.from))}`}
                              onClick={() =>
                                lines.put(
                                  boundaries.findIndex((b) => b.grade === l.grade),
                                  rounded(l.from!),
                                )
                              }
                            >
                              try it
                            </Button>
                          </td>
                        </>
                      )}
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            {suggested.lines.length > 1 && (
              <div className="buttons mt-2">
                <Button
                  size="sm"
                  variant="outline-primary"
                  disabled={!moves || !fits}
                  onClick={() => lines.tryOut(next, `lines by ${WAYS[way].word}`)}
                >
                  Try them all
                </Button>
                {!fits && <span className="small ochre">Taken together they would not be in order: try them one by one.</span>}
              </div>
            )}
          </>
        )}
      </main>
      <CloseUp>
        <section>
          <h2>What it rests on</h2>
          <p>{rests}</p>
          {way === 'shares' && (
            <SharesAsked boundaries={boundaries} shares={wantedShares} sum={sum} earlier={earlier} onShares={setShares} />
          )}
          {way === 'contrastingGroups' && (
            <ListsAsked boundaries={boundaries} students={current.students} lists={lists.data ?? []} chosen={list} onChoose={setList} />
          )}
          {way === 'gaps' && <GapsAsked zone={zone} onZone={setZone} />}
          {way === 'borderlineRegression' && (
            <BorderlineAsked
              boundaries={boundaries}
              assessments={judgements}
              given={given ?? []}
              asked={{ ...judged, borderline }}
              onAsked={setJudged}
            />
          )}
        </section>
        <section>
          <h2>How to read it</h2>
          <p className="soft small">
            “Alike” says which limits would give everyone the same grade; of these the roundest is offered. “Other samples give” is where
            the line would have come to lie, 95 times of 100, with other students of the same kind: a wide band says that the place is
            chance.
          </p>
        </section>
      </CloseUp>
    </div>
  )
}

/** A line as it would be drawn: to one decimal where it is not round by itself. */
const rounded = (from: number): number => (Number(from.toFixed(3)) === from ? from : Math.round(from * 10) / 10)

const taken = (boundaries: readonly Boundary[], lines: readonly SuggestedLine[]): Boundary[] =>
  boundaries.map((b) => {
    const from = lines.find((l) => l.grade === b.grade)?.from
    return from == null ? b : { ...b, from: rounded(from) }
  })

/** Shares in percent, as they were; alike for all where nothing is known. */
function sharesLike(boundaries: readonly Boundary[], counts?: readonly { grade: string; count: number }[]): Record<string, number> {
  const all = counts?.reduce((n, c) => n + c.count, 0) ?? 0
  const like = boundaries.map(({ grade }) => {
    const count = counts?.find((c) => c.grade === grade)?.count
    return [
      grade,
      all > 0 && count !== undefined ? Math.round((1000 * count) / all) / 10 : Math.round(1000 / boundaries.length) / 10,
    ] as const
  })
  // What rounding leaves goes to the lowest.
  const [last] = like.slice(-1)
  const rest = like.slice(0, -1).reduce((n, [, share]) => n + share, 0)
  return Object.fromEntries([...like.slice(0, -1), [last![0], Math.max(0, Math.round((100 - rest) * 10) / 10)]])
}

function WayChoice({ way, onWay, has }: { way: WayName; onWay: (way: WayName) => void; has: boolean }) {
  return (
    <div className="words-choice mb-2" role="group" aria-label="Ways to suggest lines">
      {(Object.keys(WAYS) as WayName[]).map((name) => (
        <button
          key={name}
          aria-pressed={name === way}
          disabled={name === 'borderlineRegression' && !has}
          title={name === 'borderlineRegression' && !has ? 'No assessment here is marked by an overall judgement.' : undefined}
          onClick={() => onWay(name)}
        >
          {WAYS[name].word}
        </button>
      ))}
    </div>
  )
}
