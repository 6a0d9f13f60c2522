import { sentenceWith } from './sentence-decimals'

test('decimals are written as the reader does, and what people named stays: titles, grades that are numbers, a name in another', () => {
  const said = 'Lab 2.1 (draft) and Lab 2.1 rescaled by 1.05; 1.3 begins at 87.5, at -0.25'
  expect(sentenceWith('comma', said, ['Lab 2.1', 'Lab 2.1 (draft)', '1.3', 'Map'])).toBe(
    'Lab 2.1 (draft) and Lab 2.1 rescaled by 1,05; 1.3 begins at 87,5, at -0,25',
  )
  expect(sentenceWith('point', said, [])).toBe(said)
  // The grade 1.3 is no part of 1.35, nor of 11.3.
  expect(sentenceWith('comma', 'by 1.35, then 11.3', ['1.3'])).toBe('by 1,35, then 11,3')
  expect(sentenceWith('comma', 'Merit begins at 69.5. 3 grades change.', ['Merit'])).toBe('Merit begins at 69,5. 3 grades change.')
})
