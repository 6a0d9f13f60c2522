import type { Draws } from '../compare/resampled'
import type { CourseResult } from '../grades/course'
import { byBorderlineRegression, type ByBorderlineRegression } from './ways/borderline-regression'
import { byContrastingGroups, type ByContrastingGroups } from './ways/contrasting-groups'
import { byGaps, type ByGaps } from './ways/gaps'
import { byShares, type ByShares } from './ways/shares'
import type { SuggestedLine, Way } from './ways/way'

export type AskedWay = ByShares | ByGaps | ByContrastingGroups | ByBorderlineRegression

/** Every way. */
const WAYS: { [K in AskedWay['way']]: Way<Extract<AskedWay, { way: K }>> } = {
  shares: byShares,
  gaps: byGaps,
  contrastingGroups: byContrastingGroups,
  borderlineRegression: byBorderlineRegression,
}

const USUAL: Draws = { seed: 1, draws: 400 }

/**
 * Where grades could begin, by one of four ways, with how much each line moves with other samples of the same students.
 * @param result percents are the adjusted ones; shares and gaps look at them as they are rounded
 * @param draws how samples are drawn; none for no bands
 * @returns a line for each grade asked about but the lowest, in percent, or why there is none
 * Source: Cizek & Bunch 2007, Standard Setting, chapters 6 and 10.
 */
export const suggestBoundaries = (result: CourseResult, asked: AskedWay, draws: Draws = USUAL): SuggestedLine[] =>
  (WAYS[asked.way] as Way<AskedWay>).suggest(result, asked, draws)
