import type { WayHere } from './figures'

export type WayName = WayHere['way']

/** What each way is called, asks, and rests on. */
export const WAYS: Record<WayName, { word: string; title: string; rests: string }> = {
  gaps: {
    word: 'gaps',
    title: 'Where is nobody near a line?',
    rests:
      'The widest gap between two students near each line: nobody stands so close to it that a mark would have mattered. It says nothing of what the grade is worth, and a gap may be chance.',
  },
  shares: {
    word: 'shares',
    title: 'Which lines give these shares?',
    rests:
      'The shares that you ask for. It takes for granted that this year’s students are like those the shares come from; for a small or a chosen group they are not.',
  },
  contrastingGroups: {
    word: 'could or could not',
    title: 'From where on could they do it?',
    rests:
      'People who know the work say of students near the line whether they could do what the grade asks for, without the percent and without each other. The line lies where as many could as could not.',
  },
  borderlineRegression: {
    word: 'judgements',
    title: 'Where do those stand who are judged just there?',
    rests:
      'An overall judgement of the work beside the percent: the line through both says where somebody stands who is judged to be just on the border. It holds as far as judgement and percent see the same thing.',
  },
}
