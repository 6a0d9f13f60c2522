import type { GradeTable } from './grade-table'
import type { PackedCourse } from './pack'

/** sections × components: what the ordinary assessments set there weigh together. */
function weighsTogether({ placed, inside, bonus, components, sectionIds }: PackedCourse): Float64Array {
  const sums = new Float64Array(sectionIds.length * components.length)
  for (let section = 0; section < sectionIds.length; section++)
    components.forEach((c, i) => {
      for (let a = c.start; a < c.end; a++)
        if (placed[section * inside.length + a] === 1 && bonus[a] === 0) sums[section * components.length + i]! += inside[a]!
    })
  return sums
}

/**
 * Most students have a plain mark for everything that is set, and nothing is dropped: one loop over all of them, with nothing in it but
 * columns, does what `Grader` does for each, in the same order, and so to the same last bit. Writes `soFar` and `componentPercent` of
 * those; `soFar` is NaN for all others.
 */
export function plainPercents(course: PackedCourse, { soFar, componentPercent }: GradeTable): void {
  const { placed, status, mark, outOf, inside, components, sectionOf, policy } = course
  if (components.some((c) => c.dropLowest > 0)) return void soFar.fill(NaN)
  const many = components.length
  const width = inside.length
  const start = Int32Array.from(components, (c) => c.start)
  const end = Int32Array.from(components, (c) => c.end)
  const weight = Float64Array.from(components, (c) => c.weight)
  const isBonus = Uint8Array.from(components, (c) => Number(c.bonus))
  const carried = weighsTogether(course)
  const most = policy.above100 === 'cap' ? 100 : Infinity
  for (let s = 0; s < sectionOf.length; s++) {
    const section = sectionOf[s]!
    const place = section * width
    const base = s * width
    // A status other than plain leaves its bits; a blank makes its points NaN.
    let statuses = 0
    let blank = false
    let total = 0
    let weights = 0
    let extra = 0
    for (let i = 0; i < many; i++) {
      let points = 0
      const behind = end[i]!
      for (let a = start[i]!; a < behind; a++) {
        if (placed[place + a] === 0) continue
        statuses |= status[base + a]!
        points += inside[a]! * (mark[base + a]! / outOf[a]!)
      }
      blank ||= points !== points
      const all = carried[section * many + i]!
      const p = all === 0 ? NaN : (100 * points) / all
      componentPercent[s * many + i] = p
      if (p !== p) continue
      if (isBonus[i] === 1) extra += (weight[i]! * p) / 100
      else {
        total += weight[i]! * p
        weights += weight[i]!
      }
    }
    soFar[s] = statuses !== 0 || blank || weights === 0 ? NaN : Math.min(most, Math.max(0, total / weights + extra))
  }
}
