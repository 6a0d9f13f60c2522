import { kindOnReadings, markMethodOf, type Adjustment, type AdjustmentMethod, type MethodKind } from '#core/rescale'
import { tickStep } from '../../parts/ticks'
import type { RescaleFigures } from './figures'

/** A way as it is first tried: it changes nothing yet, but for one whose point is known. */
export function firstMethod(
  kind: MethodKind,
  { subject, before, leans, highest }: Pick<RescaleFigures, 'subject' | 'before' | 'leans' | 'highest'>,
): AdjustmentMethod {
  if (kind === 'markerEffect') {
    const [farthest] = [...leans].sort((a, b) => Math.abs(b.effect ?? 0) - Math.abs(a.effect ?? 0))
    return { kind, markerId: farthest?.id ?? '', effect: farthest?.effect ?? 0, factor: 1 }
  }
  if (kind === 'topTo') return { kind, to: subject.outOf, ...(highest !== null && { highest }) }
  if (kind === 'without' || kind === 'grant') return { kind, criterionIds: [], scriptIds: [], markerIds: [], marks: [] }
  return kindOnReadings(kind)
    ? { kind: 'add', by: 0 }
    : markMethodOf(kind).start({ outOf: subject.outOf, tick: tickStep(subject.outOf), marks: before })
}

/** What a new adjustment begins with. A lean that is taken out, and a match, lower marks as they raise them. */
export function firstDraft(method: AdjustmentMethod, { assessmentId, outOf }: RescaleFigures['subject']): Adjustment {
  const bothWays = ['markerEffect', 'matchMeanSd', 'matchDistribution', 'anotherMaximum', 'without'].includes(method.kind)
  return {
    id: crypto.randomUUID(),
    assessmentId,
    outOf,
    sectionIds: null,
    method,
    on: true,
    neverLower: !bothWays,
    above: assessmentId === null ? 'allow' : 'keep within',
    step: assessmentId === null || kindOnReadings(method.kind) ? null : 0.5,
  }
}
