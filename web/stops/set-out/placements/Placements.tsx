import { useMemo, useState, type ReactNode } from 'react'
import { readDay, type LayOut, type PlacementFinding } from '#core/roll'
import type { Plan } from '#contract'
import { useKeys } from '../../../settings/keys'
import { dateFindings } from '../../../parts/plan-findings'
import { WriteProblem, WritesProvider } from '../../../saving/writes'
import { Board } from './Board'
import { placedIn, spotKey, usePlacementEdits } from './edits'
import { Findings } from './Findings'
import { LeftOut } from './LeftOut'
import { spotsOf, type Selection } from './selection'
import { TermLine } from './TermLine'
import { Toolbar } from './Toolbar'
import { CloseUp } from '../../../parts/CloseUp'
import styles from './placements.module.css'

/** When everything is due: assessments by sections, as a board of dates. */
export function Placements({ plan, nav }: { plan: Plan; nav: ReactNode }) {
  return (
    <WritesProvider courseId={plan.head.id}>
      <PlacementsView plan={plan} nav={nav} />
    </WritesProvider>
  )
}

function PlacementsView({ plan, nav }: { plan: Plan; nav: ReactNode }) {
  const placed = useMemo(() => placedIn(plan), [plan])
  const findings = useMemo(() => dateFindings(plan), [plan])
  const edits = usePlacementEdits(plan)
  const [chosen, setChosen] = useState<Selection>({ from: { a: 0, s: 0 }, to: { a: 0, s: 0 } })
  const [said, setSaid] = useState<string | null>(null)
  const spots = spotsOf(chosen).filter(({ a, s }) => plan.assessments[a] && plan.sections[s])

  const lay = (how: LayOut) => {
    const left = edits.layOut(how, spots)
    setSaid(
      left.length > 0
        ? `Left out, since not started by then: ${left.slice(0, 6).join(', ')}${left.length > 6 ? ` and ${left.length - 6} more` : ''}.`
        : null,
    )
  }
  /** Reads what was typed and lays it over what is chosen. @returns whether it was a day */
  const type = (text: string): boolean => {
    const how = readDay(text, plan.head)
    if (typeof how === 'string') {
      setSaid(how)
      return false
    }
    lay(how)
    return true
  }
  const paste = (text: string) => {
    const [a0, s0] = [Math.min(chosen.from.a, chosen.to.a), Math.min(chosen.from.s, chosen.to.s)]
    const wrong: string[] = []
    const days = text
      .replace(/\r?\n$/, '')
      .split(/\r?\n/)
      .flatMap((line, i) =>
        line.split('\t').flatMap((cell, j) => {
          const spot = { a: a0 + i, s: s0 + j }
          if (cell.trim() === '' || !plan.assessments[spot.a] || !plan.sections[spot.s]) return []
          const how = readDay(cell, plan.head)
          if (typeof how !== 'string' && how.kind === 'day') return [{ spot, due: how.day }]
          wrong.push(`${cell.trim().slice(0, 20)} (row ${i + 1}, column ${j + 1})`)
          return []
        }),
      )
    edits.setDays(days)
    setSaid(
      wrong.length > 0
        ? `Not days, so left as they were: ${wrong.slice(0, 4).join(', ')}${wrong.length > 4 ? ` and ${wrong.length - 4} more` : ''}.`
        : null,
    )
  }
  const goTo = (f: PlacementFinding) => {
    const a = plan.assessments.findIndex((x) => x.id === f.assessmentId)
    const s = plan.sections.findIndex((x) => x.id === f.sectionId)
    setChosen(s < 0 ? { from: { a, s: 0 }, to: { a, s: plan.sections.length - 1 } } : { from: { a, s }, to: { a, s } })
  }
  const mayEdit = edits.mayEdit
  const shift = (days: number) => lay({ kind: 'shift', days })
  useKeys(
    mayEdit
      ? [
          { key: '-', does: 'a day earlier', run: () => shift(-1) },
          { key: '+', does: 'a day later', run: () => shift(1) },
          { key: '[', does: 'a week earlier', run: () => shift(-7) },
          { key: ']', does: 'a week later', run: () => shift(7) },
          { key: 'Delete', does: 'take the chosen placements off', run: () => edits.takeOff(spots) },
        ]
      : [],
  )
  if (plan.assessments.length === 0 || plan.sections.length === 0)
    return (
      <div className="work alone">
        <main className="table-side">
          <div className="stop-head">
            <h1>When everything is due</h1>
            {nav}
          </div>
          <div className="empty">
            {plan.sections.length === 0
              ? 'There are no sections yet: bring the roll in first, then every assessment has a place here for each of them.'
              : 'There are no assessments yet: add them to the plan, then give them their days here.'}
          </div>
        </main>
      </div>
    )
  const found = new Map<string, PlacementFinding>()
  const [assessmentAt, sectionAt] = [new Map(plan.assessments.map((x, i) => [x.id, i])), new Map(plan.sections.map((x, i) => [x.id, i]))]
  for (const f of findings.open)
    if (f.sectionId !== null) {
      const key = spotKey(assessmentAt.get(f.assessmentId)!, sectionAt.get(f.sectionId)!)
      if (!found.has(key)) found.set(key, f)
    }
  return (
    <div className="work">
      <main className={`table-side ${styles.placements}`}>
        <div className="stop-head">
          <h1>When everything is due</h1>
          {nav}
        </div>
        <WriteProblem />
        {mayEdit && <Toolbar plan={plan} spots={spots} placed={placed} edits={edits} onType={type} onLay={lay} />}
        <p className={`small mb-1 ${said ? 'ochre' : 'soft'}`} role="status">
          {said ??
            'Type over the chosen cells: 12 Oct, or w6 for each section’s first meeting in week 6. Shift and arrows choose more; a title or a heading chooses all.'}
        </p>
        <Board
          plan={plan}
          placed={placed}
          found={found}
          chosen={chosen}
          onChoose={setChosen}
          onType={mayEdit ? type : null}
          onPaste={mayEdit ? paste : null}
        />
      </main>
      <CloseUp>
        <TermLine plan={plan} placed={placed} at={chosen.to.a} section={spots.length === 1 ? chosen.to.s : null} />
        <Findings findings={findings} accepted={plan.accepted} edits={edits} plan={plan} onGo={goTo} />
        <LeftOut key={plan.assessments[chosen.to.a]?.id} plan={plan} edits={edits} at={chosen.to} single={spots.length === 1} />
      </CloseUp>
    </div>
  )
}
