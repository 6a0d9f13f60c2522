import { suggestReaders } from './suggest-reader'

const marker = (id: string, waiting: number, group = 0) => ({ id, waiting, group })
const script = (scriptId: string, readBy: string[], teacherId: string | null = null) => ({ scriptId, readBy, teacherId })

test('whoever can be compared, does not teach the section and has least to do reads next; what is given out counts', () => {
  const markers = [marker('ann', 0, 1), marker('bo', 2), marker('cy', 1), marker('di', 0)]
  const given = suggestReaders([script('s', ['bo'], 'di'), script('t', ['bo'], 'di'), script('u', ['bo', 'cy'], null)], markers)
  // Ann is apart from Bo; Di teaches the section of the first two, and has nothing to do.
  expect(given.map((g) => g.markerId)).toEqual(['cy', 'cy', 'di'])
})

test('who teaches the section reads it where nobody else is left, and where nobody is, nobody is named', () => {
  expect(suggestReaders([script('s', ['bo'], 'di')], [marker('bo', 0), marker('di', 9)])).toEqual([{ scriptId: 's', markerId: 'di' }])
  expect(suggestReaders([script('s', ['bo'])], [marker('bo', 0)])).toEqual([])
})

test('a script that is to be read twice more gets two readers, and no third where nobody is left', () => {
  const markers = [marker('bo', 0), marker('cy', 0), marker('di', 5)]
  const twice = [script('s', ['bo']), script('s', ['bo']), script('s', ['bo'])]
  expect(suggestReaders(twice, markers).map((g) => g.markerId)).toEqual(['cy', 'di'])
})
