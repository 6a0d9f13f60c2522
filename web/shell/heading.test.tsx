import { inPage } from '../testing/in-page'
import { useHeadingAfter } from './heading'

function Shown({ id }: { id: string | undefined }) {
  useHeadingAfter(id)
  return (
    <main>
      <h1 key={id} tabIndex={-1}>
        {id}
      </h1>
      <input aria-label="beside" />
    </main>
  )
}
const focused = () => document.activeElement?.textContent

test('the heading of what came has the focus, where the one before had it', () => {
  const { show } = inPage(<Shown id={undefined} />)
  show(<Shown id="one" />)
  // Whoever has only arrived begins at the top.
  expect(document.activeElement).toBe(document.body)
  document.querySelector('h1')!.focus()
  show(<Shown id="two" />)
  expect(focused()).toBe('two')
  document.querySelector('input')!.focus()
  show(<Shown id="three" />)
  expect(document.activeElement?.tagName).toBe('INPUT')
})
