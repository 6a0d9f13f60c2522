import { keepFocus } from './focus-kept'

let end: () => void
beforeEach(() => {
  jest.useFakeTimers()
  end = keepFocus()
})
afterEach(() => {
  end()
  jest.useRealTimers()
  document.body.innerHTML = ''
})

const page = (html: string) => void (document.body.innerHTML = html)
const of = (id: string) => document.getElementById(id) as HTMLButtonElement
/** Changes the page, and lets what listens to that have its turn. */
async function when(change: () => void, ms = 0): Promise<string | undefined> {
  change()
  await Promise.resolve()
  jest.advanceTimersByTime(ms)
  return document.activeElement?.id
}
const TABLE = `<main><h1 id="title">Grades</h1><section><h2 id="part">Names</h2>
  <table><tbody>${['a', 'b', 'c'].map((r) => `<tr id="row-${r}"><td><input id="name-${r}"></td><td><button id="away-${r}"></button></td></tr>`).join('')}
  </tbody></table></section></main>`

test('where a row goes, to the same place of the one that comes up; after the last one, to what is last now', async () => {
  page(TABLE)
  of('away-b').focus()
  // Two controls of the first row stand before it, and its own first.
  expect(await when(() => of('row-b').remove())).toBe('away-c')
  expect(await when(() => of('row-c').remove())).toBe('away-a')
})

test('where nothing is left to go on from, to the heading of what it stood in; where that went too, to the page’s', async () => {
  page(TABLE)
  of('name-a').focus()
  expect(await when(() => document.querySelector('table')!.remove())).toBe('part')
  page(TABLE)
  of('name-a').focus()
  expect(await when(() => document.querySelector('section')!.remove())).toBe('title')
})

test('out of use while it saves it has the focus again; out of use for good, the next one has it', async () => {
  page('<main><section><button id="save"></button><button id="other"></button></section></main>')
  const saves = async (then: () => void, ms: number) => {
    of('save').focus()
    await when(() => {
      of('save').blur()
      of('save').disabled = true
    }, 100)
    return when(then, ms)
  }
  expect(await saves(() => (of('save').disabled = false), 600)).toBe('save')
  expect(await saves(() => undefined, 600)).toBe('other')
})

test('what is out of use loses the focus only as the page is next drawn, which no change tells of', async () => {
  page('<main><section><button id="try"></button><button id="other"></button></section></main>')
  of('try').focus()
  await when(() => (of('try').disabled = true))
  // As a browser does it; here what is out of use keeps the focus.
  const drawn = jest.spyOn(document, 'activeElement', 'get').mockReturnValueOnce(document.body)
  expect(await when(() => undefined, 600)).toBe('other')
  drawn.mockRestore()
})

test('left on purpose it is left, and whoever moves it on purpose comes first', async () => {
  page(TABLE)
  of('away-a').focus()
  of('away-a').blur()
  jest.advanceTimersByTime(0)
  expect(await when(() => of('row-a').remove())).toBe('')
  of('away-b').focus()
  expect(
    await when(() => {
      of('row-b').remove()
      of('name-c').focus()
    }),
  ).toBe('name-c')
})

test('a button that goes leaves the focus on no text field, where keys would be letters', async () => {
  page(
    '<main><section><h2 id="part">Names</h2><input id="words"><button id="gone"></button><input id="more"><select id="who"></select></section></main>',
  )
  of('gone').focus()
  expect(await when(() => of('gone').remove())).toBe('who')
  page('<main><section><h2 id="part">Names</h2><input id="words"><button id="gone"></button></section></main>')
  of('gone').focus()
  expect(await when(() => of('gone').remove())).toBe('part')
})
