import { screen, waitFor } from '@testing-library/react'
import { routes } from '#contract'
import { page } from '../api/client'
import { component } from '../testing/data'
import { inPage, Refuses, reload, serverAnswers } from '../testing/in-page'
import { ask } from './ask'
import { useWrites, WriteProblem } from './writes'

beforeEach(() => {
  localStorage.clear()
  page.keepKey = btoa('k'.repeat(32))
})

/** Two fields of one row: each goes over the version that is known when its turn has come. */
function Row({ known }: { known: number }) {
  const { write } = useWrites()
  const edit = (body: { title?: string; weight?: number }) =>
    void write(
      'edit Exam',
      ask(routes.editComponent, () => ({ params: { courseId: 'c', componentId: 'exam' }, body: { version: known, ...body } })),
    )
  return (
    <>
      <WriteProblem />
      <button onClick={() => edit({ weight: 55 })}>weight</button>
      <button onClick={() => edit({ title: 'Paper' })}>title</button>
    </>
  )
}

/** A row as the server keeps it. */
function start(version: number, known = version) {
  const row = { ...component('exam', 60), version }
  const server = serverAnswers([
    [
      routes.editComponent,
      ({ version: over, ...patch }: { version: number }) =>
        over === row.version
          ? { ...Object.assign(row, patch, { version: over + 1 }) }
          : new Refuses(409, 'Rune Daal changed Exam meanwhile.', { ...row }),
    ],
  ])
  return { ...inPage(<Row known={known} />), server, row }
}
const press = async ({ user }: ReturnType<typeof start>, name: string) => user.click(screen.getByRole('button', { name }))

test('edited with the server away it waits over a reload; the page that opens then sends it, one on top of the other', async () => {
  const first = start(4)
  first.server.away = true
  await press(first, 'weight')
  await press(first, 'title')
  expect((await screen.findByRole('alert')).textContent).toMatch(/kept here and sent when it is back/)
  reload()
  const { row } = start(4)
  await waitFor(() => expect(row).toMatchObject({ title: 'Paper', weight: 55, version: 6 }))
  await waitFor(() => expect(localStorage).toHaveLength(0))
})

test('changed by somebody else meanwhile, nothing is sent until one has chosen; one’s own then goes over it', async () => {
  const shown = start(7, 4)
  await press(shown, 'weight')
  expect((await screen.findByRole('alert')).textContent).toMatch(/Rune Daal changed Exam meanwhile/)
  expect(shown.row.weight).toBe(60)
  await press(shown, 'Keep what is here')
  await waitFor(() => expect(shown.row).toMatchObject({ weight: 55, version: 8 }))
  expect(screen.queryByRole('alert')).toBeNull()
})

test('or what is there stands, and there is nothing to undo', async () => {
  const shown = start(7, 4)
  await press(shown, 'weight')
  await screen.findByRole('alert')
  await press(shown, 'Take what is there')
  expect([screen.queryByRole('alert'), shown.row.weight]).toEqual([null, 60])
  expect(screen.getByText(/^✓ saved/)).toBeTruthy()
  expect(screen.getByRole('button', { name: 'Undo' }).hasAttribute('disabled')).toBe(true)
})

test('what a newer page does not know any more is not sent', async () => {
  const first = start(4)
  first.server.away = true
  await press(first, 'weight')
  await screen.findByRole('alert')
  reload()
  const { editComponent } = routes
  const was = editComponent.body.safeParse.bind(editComponent.body)
  jest.spyOn(editComponent.body, 'safeParse').mockReturnValueOnce(was({ version: 'x' }))
  const { server } = start(4)
  expect(screen.queryByRole('alert')).toBeNull()
  expect(server.sent).toEqual([])
})
