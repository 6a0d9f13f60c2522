import { signed } from '../../../parts/format'

interface Told {
  lean: number | null
  interval: [low: number, high: number] | null
}

const sideOf = (lean: number, tolerance: number): -1 | 0 | 1 => (Math.abs(lean) <= tolerance ? 0 : lean > 0 ? 1 : -1)

/**
 * What a section’s marks say once its students’ other work is taken into account: whether it is the students, or the marking and the
 * paper. Null where nothing can be told.
 */
export function verdict(asMarked: Told, given: Told | null, tolerance: number): { words: string; look: boolean } | null {
  if (asMarked.lean === null) return null
  const here = sideOf(asMarked.lean, tolerance)
  const word = here > 0 ? 'high' : 'low'
  if (!given || given.lean === null) return { words: here === 0 ? 'level' : word, look: here !== 0 }
  const beyond = sideOf(given.lean, tolerance)
  // A lean whose interval holds zero may be chance.
  const chance = beyond !== 0 && given.interval !== null && given.interval[0] <= 0 && given.interval[1] >= 0 ? '; it may be chance' : ''
  if (here === 0 && beyond === 0) return { words: 'level', look: false }
  if (here === 0)
    return {
      words: `level, though its students do ${beyond > 0 ? 'less well' : 'better'} elsewhere: marked ${beyond > 0 ? 'generously' : 'severely'}?${chance}`,
      look: true,
    }
  if (beyond === 0) return { words: `${word}, and ${word} elsewhere: ${here > 0 ? 'strong' : 'weaker'} students`, look: false }
  if (beyond === here) return { words: `${word} here only: look at its marking${chance}`, look: true }
  return { words: `${word}, but ${signed(given.lean)} for what its students do elsewhere${chance}`, look: true }
}
