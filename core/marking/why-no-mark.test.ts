import { whyNoMark } from './why-no-mark'

const paper = { outOf: 10, bonus: false, completion: false }
test.each([
  [0, paper, null],
  [10, paper, null],
  [10.5, paper, '10.5 is over the maximum of 10.'],
  [-1, paper, '-1 is below 0, which only a bonus may be.'],
  [-10, { ...paper, bonus: true }, null],
  [-200, { ...paper, bonus: true }, '-200 takes off more than 10, what the bonus is out of.'],
  [5, { ...paper, completion: true }, 'It is done, 10, or not done, 0.'],
  [10, { ...paper, completion: true }, null],
])('%p with %j', (mark, of, why) => expect(whyNoMark(mark, of)).toBe(why))
