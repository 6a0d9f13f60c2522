import { layOut, type LayOut } from '#core/roll'
import { routes, type Plan, type PlacementWrite, type Release } from '#contract'
import { useTrial } from '../../../course/trial'
import { counted } from '../../../parts/format'
import { useAhead, useLatest } from '../latest'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'

/** A cell of the board: an assessment and a section by their places in the plan. */
export interface Spot {
  a: number
  s: number
}

export interface Placed {
  due: string | null
  release: Release
}

export const spotKey = (a: number, s: number): string => `${a} ${s}`

/** The placements of a plan by assessment and section. */
export function placedIn(plan: Plan): Map<string, Placed> {
  return new Map(plan.placements.map(([a, s, due, r]) => [spotKey(a, s), { due, release: plan.releases[r]! }]))
}

/** The plan with placements written into it. */
function withPlacements(plan: Plan, writes: PlacementWrite[]): Plan {
  const [assessmentAt, sectionAt] = [plan.assessments, plan.sections].map((list) => new Map(list.map((x, i) => [x.id, i]))) as [
    Map<string, number>,
    Map<string, number>,
  ]
  const releases = [...plan.releases]
  const rows = new Map(plan.placements.map((p) => [spotKey(p[0], p[1]), p]))
  for (const w of writes) {
    const [a, s] = [assessmentAt.get(w.assessmentId)!, sectionAt.get(w.sectionId)!]
    if (!w.placed) rows.delete(spotKey(a, s))
    else {
      let r = releases.findIndex((x) => JSON.stringify(x) === JSON.stringify(w.release))
      if (r < 0) r = releases.push(w.release) - 1
      rows.set(spotKey(a, s), [a, s, w.due, r])
    }
  }
  return { ...plan, releases, placements: [...rows.values()] }
}

/** Ways to change many placements at once; each saves at once and can be undone. */
export function usePlacementEdits(plan: Plan) {
  const { courseId, mayDecide, propose } = useTrial()
  const { write } = useWrites()
  const ahead = useAhead()
  const latest = useLatest()
  /** As they are now, which may be ahead of what is drawn: keys come faster than pictures. */
  const placedNow = () => placedIn(latest('plan'))

  const send = (placements: PlacementWrite[]) => ask(routes.setPlacements, { params: { courseId }, body: { placements } })
  const set = (placements: PlacementWrite[], label: string) => {
    if (placements.length === 0) return
    ahead('plan', (now) => withPlacements(now, placements))
    void write(label, send(placements), ({ before }) => send(before))
  }
  /** How a placement of an assessment is released where nothing else is said: as its others are. */
  const usual = (a: number): Release => {
    const other = plan.placements.find(([x]) => x === a)
    return other ? plan.releases[other[3]]! : { kind: 'confirmed' }
  }
  const asWrite = (placed: Map<string, Placed>, { a, s }: Spot, change: Partial<Placed> & { placed?: boolean }): PlacementWrite => {
    const now = placed.get(spotKey(a, s))
    return {
      assessmentId: plan.assessments[a]!.id,
      sectionId: plan.sections[s]!.id,
      placed: change.placed ?? true,
      due: change.due === undefined ? (now?.due ?? null) : change.due,
      release: change.release ?? now?.release ?? usual(a),
    }
  }
  const what = (spots: Spot[]) => counted(spots.length, 'placement')

  return {
    mayEdit: mayDecide,
    /**
     * Gives days to spots, each by its section's own meetings.
     * @returns the names of sections left out because they have not started by then
     */
    layOut(how: LayOut, spots: Spot[]): string[] {
      const placed = placedNow()
      const writes: PlacementWrite[] = []
      const left = new Set<string>()
      for (const a of new Set(spots.map((x) => x.a))) {
        const own = spots.filter((x) => x.a === a)
        const sections = own.map(({ s }) => ({ ...plan.sections[s]!, due: placed.get(spotKey(a, s))?.due ?? null }))
        const laid = layOut(how, sections, plan.head)
        own.forEach((spot, i) => {
          const day = laid.days.get(sections[i]!.id)
          if (day !== undefined) writes.push(asWrite(placed, spot, { due: day }))
        })
        for (const id of laid.notStarted) left.add(plan.sections.find((x) => x.id === id)!.name)
      }
      set(writes, how.kind === 'shift' ? `shift ${what(spots)}` : `date ${what(spots)}`)
      return [...left]
    },
    /** Sets days one by one, as a pasted block has them. */
    setDays(days: { spot: Spot; due: string }[]) {
      const placed = placedNow()
      set(
        days.map(({ spot, due }) => asWrite(placed, spot, { due })),
        `paste ${counted(days.length, 'day')}`,
      )
    },
    place(spots: Spot[]) {
      const placed = placedNow()
      set(
        spots.map((x) => asWrite(placed, x, {})),
        `set ${what(spots)}`,
      )
    },
    takeOff(spots: Spot[]) {
      const placed = placedNow()
      const there = spots.filter(({ a, s }) => placed.has(spotKey(a, s)))
      set(
        there.map((x) => asWrite(placed, x, { placed: false })),
        `take ${what(there)} off`,
      )
    },
    release(spots: Spot[], release: Release) {
      const placed = placedNow()
      const there = spots.filter(({ a, s }) => placed.has(spotKey(a, s)))
      set(
        there.map((x) => asWrite(placed, x, { release })),
        `release ${what(there)}`,
      )
    },
    accept(keys: string[], reason: string) {
      void write('let a finding stand', ask(routes.acceptFinding, { params: { courseId }, body: { keys, reason } }), () =>
        ask(routes.raiseFinding, { params: { courseId }, body: { keys } }),
      )
    },
    raise(keys: string[], reason: string) {
      void write('raise a finding again', ask(routes.raiseFinding, { params: { courseId }, body: { keys } }), () =>
        ask(routes.acceptFinding, { params: { courseId }, body: { keys, reason } }),
      )
    },
    /** Leaves students out of an assessment, or back in: a trial, since it moves grades. */
    exclude(assessmentId: string, studentIds: string[], out: boolean, label: string) {
      propose(
        studentIds.map((studentId) => ({ kind: 'exclude', assessmentId, studentId, out })),
        label,
      )
    },
  }
}

export type PlacementEdits = ReturnType<typeof usePlacementEdits>
