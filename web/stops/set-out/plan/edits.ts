import { type Boundary } from '#core/grades'
import { planWithChanges, type Change } from '#core/trial'
import { routes, type Assessment, type Component, type Plan, type Policy } from '#contract'
import type { z } from 'zod'
import { useTrial } from '../../../course/trial'
import { withBoundaries } from '../../../course/try-boundaries'
import { ask, send } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { useAhead, useLatest, withRow } from '../latest'

export type AssessmentPatch = Omit<z.input<typeof routes.editAssessment.body>, 'version'>
export type ComponentPatch = Omit<z.input<typeof routes.editComponent.body>, 'version'>
type Counting = Extract<Change, { kind: 'assess' }>['patch']
type Shape = Extract<Change, { kind: 'shape' }>['patch']

/** The fields of a row that a patch names, as they are now: the way back. */
const before = <T extends object, P extends object>(row: T, patch: P): P =>
  Object.fromEntries(Object.keys(patch).map((k) => [k, row[k as keyof T & string]])) as P

/**
 * Ways to edit the plan. Before there are marks they are saved as they are made; once there are, what changes
 * grades goes into the trial.
 */
export function usePlanEdits(decided: Plan) {
  const { courseId, changes, propose, setTrial, mayDecide } = useTrial()
  const { write } = useWrites()
  const latest = useLatest()
  const ahead = useAhead()
  const { plan } = planWithChanges(decided, changes)
  const takenAway = new Set(changes.flatMap((c) => (c.kind === 'take away' ? [c.assessmentId] : [])))

  // The version that comes back is the one the next write in the queue must name.
  const patchComponent = (id: string, patch: ComponentPatch) =>
    ask(
      routes.editComponent,
      () => {
        const { version } = latest('plan').components.find((c) => c.id === id)!
        return { params: { courseId, componentId: id }, body: { version, ...patch } }
      },
      ({ version }) => ahead('plan', (now) => ({ ...now, components: withRow(now.components, id, { version }) })),
    )
  const patchAssessment = (id: string, patch: AssessmentPatch) =>
    ask(
      routes.editAssessment,
      () => {
        const { assessments, away } = latest('plan')
        const { version } = [...assessments, ...away].find((a) => a.id === id)!
        return { params: { courseId, assessmentId: id }, body: { version, ...patch } }
      },
      ({ version, worth }) => ahead('plan', (now) => ({ ...now, assessments: withRow(now.assessments, id, { version, worth }) })),
    )
  const editComponent = (c: Component, patch: ComponentPatch) => {
    const back = before(
      decided.components.find((x) => x.id === c.id)!,
      patch,
    )
    return write(`edit ${c.title}`, patchComponent(c.id, patch), () => patchComponent(c.id, back))
  }
  const editAssessment = (a: Assessment, patch: AssessmentPatch) => {
    const row = decided.assessments.find((x) => x.id === a.id)!
    // The worth that followed the maximum goes back with it.
    const back: AssessmentPatch =
      patch.worth !== undefined && row.worthFollows ? { ...before(row, patch), worth: undefined, worthFollows: true } : before(row, patch)
    const shown = Object.fromEntries(Object.entries(patch).filter(([, v]) => v !== undefined))
    ahead('plan', (now) => ({ ...now, assessments: withRow(now.assessments, a.id, shown) }))
    return write(`edit ${a.title}`, patchAssessment(a.id, patch), () => patchAssessment(a.id, back))
  }

  return {
    plan,
    takenAway,
    mayDecide,
    editComponent,
    editAssessment,
    weigh(weights: { component: Component; weight: number }[], label: string) {
      if (decided.hasMarks)
        return propose(
          weights.map(({ component, weight }) => ({ kind: 'weigh', componentId: component.id, weight })),
          label,
        )
      const by = new Map(weights.map((w) => [w.component.id, w.weight]))
      ahead('plan', (now) => ({ ...now, components: now.components.map((c) => ({ ...c, weight: by.get(c.id) ?? c.weight })) }))
      const was = weights.map(({ component }) => decided.components.find((c) => c.id === component.id)!)
      void write(
        label,
        async () => {
          for (const { component, weight } of weights) await send(patchComponent(component.id, { weight }))
        },
        async () => {
          for (const c of was) await send(patchComponent(c.id, { weight: c.weight }))
        },
      )
    },
    shape(c: Component, patch: Shape) {
      if (decided.hasMarks) propose([{ kind: 'shape', componentId: c.id, patch }], `change ${c.title}`)
      else void editComponent(c, patch)
    },
    count(a: Assessment, patch: Counting) {
      if (decided.hasMarks) propose([{ kind: 'assess', assessmentId: a.id, patch }], `change ${a.title}`)
      else void editAssessment(a, patch)
    },
    policy(policy: Policy) {
      if (decided.hasMarks) return propose([{ kind: 'policy', policy, over: decided.policy }], 'change the policies')
      const set = (p: Policy) => ask(routes.setPolicy, { params: { courseId }, body: { policy: p } })
      void write('change the policies', set(policy), () => set(decided.policy))
    },
    grades(boundaries: Boundary[], label: string) {
      if (decided.hasMarks) return setTrial(withBoundaries(changes, boundaries, decided.boundaries), label)
      const set = (lines: Boundary[]) => ask(routes.setGrades, { params: { courseId }, body: { boundaries: lines } })
      ahead('plan', (now) => ({ ...now, boundaries }))
      void write(label, set(boundaries), () => set(decided.boundaries))
    },
    takeAway(a: Assessment) {
      if (decided.hasMarks && a.counts) return propose([{ kind: 'take away', assessmentId: a.id }], `take ${a.title} away`)
      void write(`take ${a.title} away`, patchAssessment(a.id, { away: true }), () => patchAssessment(a.id, { away: false }))
    },
    /** Puts back what the open trial takes away. */
    keep(a: Assessment) {
      setTrial(
        changes.filter((c) => c.kind !== 'take away' || c.assessmentId !== a.id),
        `keep ${a.title}`,
      )
    },
    bringBack(gone: Plan['away'][number]) {
      const { decisionId } = gone
      if (decisionId === null)
        return void write(`bring ${gone.title} back`, patchAssessment(gone.id, { away: false }), () =>
          patchAssessment(gone.id, { away: true }),
        )
      void write(
        `bring ${gone.title} back`,
        ask(routes.withdraw, { params: { courseId, decisionId }, body: { reason: 'Brought back at Set out' } }),
      )
    },
    order(ids: string[]) {
      const was = decided.assessments.map((a) => a.id)
      const set = (list: string[]) => ask(routes.orderAssessments, { params: { courseId }, body: { ids: list } })
      void write('put the assessments in another order', set(ids), () => set(was))
    },
    addComponent: (body: z.input<typeof routes.addComponent.body>) =>
      write('add a component', ask(routes.addComponent, { params: { courseId }, body }), (c) =>
        ask(routes.removeComponent, { params: { courseId, componentId: c.id } }),
      ),
    removeComponent: ({ title, weight, combine, dropLowest, bonus, id }: Component) =>
      write(`take ${title} away`, ask(routes.removeComponent, { params: { courseId, componentId: id } }), () =>
        ask(routes.addComponent, { params: { courseId }, body: { title, weight, combine, dropLowest, bonus } }),
      ),
    addAssessment: (body: z.input<typeof routes.addAssessment.body>) =>
      write('add an assessment', ask(routes.addAssessment, { params: { courseId }, body }), (a) => patchAssessment(a.id, { away: true })),
    addPlan: (body: z.input<typeof routes.addPlan.body>) =>
      write(`add ${body.assessments.length} assessments`, ask(routes.addPlan, { params: { courseId }, body }), (added) =>
        ask(routes.takePlanBack, { params: { courseId }, body: added }),
      ),
    copyAssessment: (body: z.input<typeof routes.copyAssessment.body>) =>
      write('copy an assessment', ask(routes.copyAssessment, { params: { courseId }, body }), ({ assessment }) =>
        patchAssessment(assessment.id, { away: true }),
      ),
    bringInAssessment: (body: z.input<typeof routes.bringInAssessment.body>) =>
      write('bring an assessment in', ask(routes.bringInAssessment, { params: { courseId }, body }), ({ assessment }) =>
        patchAssessment(assessment.id, { away: true }),
      ),
    startingMark: (a: Assessment, mark: number) =>
      write(
        `starting mark for ${a.title}`,
        ask(routes.startingMark, { params: { courseId, assessmentId: a.id }, body: { mark } }),
        ({ given }) =>
          given.length === 0
            ? Promise.resolve()
            : ask(routes.writeCells, {
                params: { courseId },
                body: {
                  cells: given.map((c) => ({
                    studentId: c.studentId,
                    assessmentId: c.assessmentId,
                    version: c.version,
                    mark: null,
                    status: 'in' as const,
                    daysLate: 0,
                  })),
                },
              }),
      ),
  }
}

export type PlanEdits = ReturnType<typeof usePlanEdits>
