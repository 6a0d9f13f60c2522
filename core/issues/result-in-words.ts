import type { Policy } from '../grades/course'
import { descending } from '../grades/rounding'
import { sentenceWith } from '../grades/sentence-decimals'
import { written, type DecimalSign } from '../grades/written'
import { issuedMark, marksByTitle, type IssueContent, type IssuedMark, type IssuedResult } from './issue'

/** How a confirmed result came about, for the student whose it is. */
export interface ResultInWords {
  components: { title: string; percent: number | null; words: string[] }[]
  /** From the course percent to the grade. */
  steps: string[]
}

/** What is frozen of a course beside its students. */
export type Frozen = Pick<IssueContent, 'policy' | 'boundaries' | 'components' | 'assessments' | 'conditions'>

/** A result as the student whose it is sees it. */
export type OwnIssued = Omit<IssuedResult, 'name' | 'candidate'>

/** At most two decimals, without trailing zeros. */
const short = (x: number) => written(x, 'point', { most: 2 })

/** Sentences with the decimals of their reader. */
const readBy = (decimal: DecimalSign, { components, assessments = [], boundaries }: Frozen) => {
  const names = [...components, ...assessments].map((x) => x.title)
  return (sentence: string) => sentenceWith(decimal, sentence, [...names, ...boundaries.map((b) => b.grade)])
}

/**
 * Why a student has the result that was confirmed, in sentences, out of what was frozen with it. It names nobody, and of rescaling only that
 * it was done: what was decided about sections and markers is not the student's.
 * @param decimal how numbers are written
 */
export function resultInWords(content: Frozen, result: OwnIssued, decimal: DecimalSign = 'point'): ResultInWords {
  const read = readBy(decimal, content)
  const weights = new Map(content.components.map((c) => [c.title, c]))
  return {
    components: result.components.map(({ title, percent }) => {
      const { weight = null, bonus } = weights.get(title) ?? {}
      const works = (content.assessments ?? []).flatMap((a, at) => {
        const mark = issuedMark(result.marks?.[at] ?? null)
        return a.component === title && mark ? workInWords(a, mark, content.policy, result.dropped?.includes(at) ?? false) : []
      })
      const counts =
        percent === null
          ? 'Nothing in it counts yet.'
          : bonus
            ? `A bonus: it adds ${short(((weight ?? 0) * percent) / 100)} points.`
            : weight === null
              ? ''
              : `It weighs ${short(weight)}.`
      return { title, percent, words: [...works, ...(counts ? [counts] : [])].map(read) }
    }),
    steps: stepsOf(content, result).map(read),
  }
}

function workInWords(
  a: NonNullable<Frozen['assessments']>[number],
  { mark, plain, status, daysLate }: IssuedMark,
  policy: Policy,
  dropped: boolean,
): string {
  const rescaled = plain === undefined ? '' : `, rescaled from ${short(plain)}`
  const said: Record<IssuedMark['status'], () => string> = {
    in: () => (mark === null ? 'no mark yet' : `${short(mark)} of ${short(a.outOf)}${rescaled}`),
    late: () =>
      mark === null
        ? 'late, no mark yet'
        : `${short(mark)} of ${short(a.outOf)}${rescaled}, ${daysInWords(daysLate)}${lateInWords(policy)}`,
    missing: () =>
      policy.missing.kind === 'pending'
        ? 'missing, still open'
        : `missing, counts ${policy.missing.kind === 'zero' ? '0' : `${short(policy.missing.percent)}%`}`,
    absent: () => ({ pending: 'absent, still open', zero: 'absent, counts 0', exempt: 'absent, left out' })[policy.absent.kind],
    exempt: () => 'exempt, left out',
    held: () => 'looked into, still open',
  }
  const tail = [...(dropped ? ['left out as the lowest'] : []), ...(a.bonus ? ['a bonus'] : []), ...(a.counts ? [] : ['does not count'])]
  return `${[`${a.title}: ${said[status]()}`, ...tail].join(', ')}.`
}

const daysInWords = (days: number) => (days === 0 ? 'late' : `${days} ${days === 1 ? 'day' : 'days'} late`)

function lateInWords({ late }: Policy): string {
  if (late.kind === 'none') return ''
  if (late.kind === 'cap') return ` (counts ${short(late.percent)}% at most)`
  return ` (${short(late.percent)}% of the maximum taken off a day${late.maxDays === null ? '' : `, for ${late.maxDays} days at most`})`
}

function stepsOf({ policy, boundaries, conditions = [] }: Frozen, r: OwnIssued): string[] {
  if (r.final === null)
    return [`${r.pending === 1 ? 'One work is' : `${r.pending} works are`} still open, so there is no course percent yet.`]
  const steps = [`By their weights the parts make ${short(r.final)}%.`]
  if (r.adjusted != null && Math.abs(r.adjusted - r.final) > 1e-9)
    steps.push(`The course was rescaled for everybody: ${short(r.adjusted)}%.`)
  const before = r.adjusted ?? r.final
  if (policy.rounding && r.rounded !== null && Math.abs(r.rounded - before) > 1e-9)
    steps.push(
      `Rounded half up to ${policy.rounding.decimals === 0 ? 'whole percents' : `${policy.rounding.decimals} ${policy.rounding.decimals === 1 ? 'decimal' : 'decimals'}`}: ${short(r.rounded)}%.`,
    )
  const sorted = descending(boundaries)
  const at = sorted.findIndex((b) => r.rounded !== null && r.rounded >= b.from)
  if (at >= 0) {
    const next = at > 0 ? ` ${sorted[at - 1]!.grade} begins at ${short(sorted[at - 1]!.from)}.` : ''
    steps.push(`${sorted[at]!.grade} begins at ${short(sorted[at]!.from)}.${next}`)
  }
  for (const place of r.heldBy ?? []) {
    const c = conditions[place]
    if (c) steps.push(`A grade above ${c.atMost} asks for at least ${short(c.least)}% in ${c.on}, so it is ${r.grade}.`)
  }
  return steps
}

/** What a later issue changed for one student, in sentences; empty where nothing did. */
export function changedInWords(
  was: Frozen & { result: OwnIssued },
  now: Frozen & { result: OwnIssued },
  decimal: DecimalSign = 'point',
): string[] {
  const words: string[] = []
  const [a, b] = [was.result, now.result]
  if (a.grade !== b.grade) words.push(`The grade was ${a.grade ?? 'still open'} and is ${b.grade ?? 'open again'}.`)
  if (a.rounded !== b.rounded)
    words.push(
      `The percent was ${a.rounded === null ? 'still open' : short(a.rounded)} and is ${b.rounded === null ? 'open again' : short(b.rounded)}.`,
    )
  const later = marksByTitle(now, b)
  for (const [title, then] of marksByTitle(was, a)) {
    const mark = later.get(title) ?? null
    if (then?.mark !== mark?.mark || then?.status !== mark?.status || then?.daysLate !== mark?.daysLate)
      words.push(`${title}: ${inShort(then)} before, ${inShort(mark)} now.`)
  }
  const held = (x: Frozen & { result: OwnIssued }) => (x.result.heldBy ?? []).flatMap((place) => x.conditions?.[place] ?? [])
  for (const c of held(now).filter((c) => !held(was).some((o) => same(o, c))))
    words.push(`A grade above ${c.atMost} now asks for at least ${short(c.least)}% in ${c.on}, and did not before, or was met.`)
  for (const c of held(was).filter((c) => !held(now).some((o) => same(o, c))))
    words.push(`What a grade above ${c.atMost} asked for in ${c.on}, at least ${short(c.least)}%, holds it back no more.`)
  // Decisions for the whole course are named only where this result changed.
  return words.length === 0 ? [] : [...words, ...decidedInWords(was, now)].map(readBy(decimal, now))
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

const POLICIES: [keyof Policy, string][] = [
  ['late', 'late work'],
  ['missing', 'missing work'],
  ['absent', 'absence'],
  ['rounding', 'rounding'],
  ['above100', 'more than 100%'],
]

/** In what the plan, its rules and its boundaries differ, in sentences. */
function decidedInWords(was: Frozen, now: Frozen): string[] {
  const words: string[] = []
  const weigh = (
    all: readonly { title: string; by: number | null }[],
    word: string,
    before: readonly { title: string; by: number | null }[],
  ) => {
    for (const { title, by } of all) {
      const then = before.find((c) => c.title === title)
      if (then && then.by !== by && then.by !== null && by !== null)
        words.push(`${title} ${word} ${short(by)}, and ${short(then.by)} before.`)
    }
  }
  const parts = ({ components }: Frozen) => components.map((c) => ({ title: c.title, by: c.weight }))
  const works = ({ assessments = [] }: Frozen) => assessments.map((a) => ({ title: a.title, by: a.worth }))
  weigh(parts(now), 'weighs', parts(was))
  weigh(works(now), 'is worth', works(was))
  for (const [key, of] of POLICIES) if (!same(was.policy[key], now.policy[key])) words.push(`The rule for ${of} was changed.`)
  if (!same(was.boundaries, now.boundaries)) words.push('Where grades begin was moved.')
  return words
}

const inShort = (m: IssuedMark | null): string => {
  if (m === null) return 'not set'
  if (m.mark === null) return m.status === 'in' || m.status === 'late' ? 'no mark' : m.status
  return `${short(m.mark)}${m.status === 'late' ? ` (${daysInWords(m.daysLate)})` : ''}`
}
