import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { routes, type Deliveries, type DeliveryRow, type SortDelivery } from '#contract'
import { assessment, planOf } from '../../../testing/data'
import { inPage, serverAnswers } from '../../../testing/in-page'
import { Box } from './Box'

const delivery = (id: string, more: Partial<DeliveryRow> = {}): DeliveryRow => ({
  id,
  fileName: `${id}.txt`,
  kind: 'text',
  candidate: '4711',
  assessment: 'Essay',
  cameAt: '2026-11-16T08:30:00Z',
  state: 'waiting',
  why: 'Nobody here has the number 4711.',
  studentId: null,
  assessmentId: null,
  attempt: null,
  daysLate: 0,
  sortedBy: null,
  ...more,
})
const placed = (id: string, more: Partial<DeliveryRow> = {}) =>
  delivery(id, { state: 'placed', why: null, studentId: 'ada', assessmentId: 'essay', attempt: 1, ...more })
const student = (id: string, name: string, candidate: string) => ({
  id,
  name,
  candidate,
  stays: [{ sectionId: 'east', from: '2026-09-07', to: null }],
})

const ROLL = { students: [student('ada', 'Ada Holm', '100'), student('bo', 'Bo Lind', '101')] }

function box(list: DeliveryRow[], { inBox = 0, decides = true }: { inBox?: number | null; decides?: boolean } = {}) {
  const sorts: [string, SortDelivery][] = []
  const count = (state: DeliveryRow['state']) => list.filter((d) => d.state === state).length
  const came: Deliveries = {
    list,
    counts: { placed: count('placed'), waiting: count('waiting'), setAside: count('set aside') },
    inBox,
  }
  serverAnswers([
    [routes.deliveries, () => came],
    [routes.plan, () => planOf({ assessments: [assessment('essay'), assessment('talk')] })],
    [routes.standIns, () => ({ now: [{ name: 'submission box', fails: false }], list: [] })],
    [
      routes.sortDelivery,
      (body: SortDelivery, address) => {
        sorts.push([address.split('/').at(-1)!, body])
        return delivery('any')
      },
    ],
    [routes.collect, () => ({ placed: 5, waiting: 1, setAside: 2, faults: ['Line 9: the file is not in the box.'] })],
  ])
  return {
    ...inPage(<Box courseId="c" decides={decides} nav={null} />, { known: [[['roll', 'c'], ROLL]] }),
    sorts,
    ready: () => screen.findByRole('heading', { name: 'What came in' }),
  }
}
const closeUp = () => within(screen.getByRole('complementary'))

test('work lies in the box until it is collected; what could not be taken over is said', async () => {
  const { user, ready } = box([], { inBox: 8 })
  await ready()
  expect(screen.getByText(/pieces of work lie in the submission box/)).toBeTruthy()
  await user.keyboard('c')
  expect(await screen.findByText(/5 placed, 1 to sort, 2 set aside/)).toBeTruthy()
  expect(screen.getByText('Line 9: the file is not in the box.')).toBeTruthy()
})

test('a box that cannot be reached leaves what came before in sight', async () => {
  const { ready } = box([placed('walk')], { inBox: null })
  await ready()
  expect(screen.getByText(/The submission box cannot be reached/)).toBeTruthy()
  expect(await screen.findByText('Ada Holm')).toBeTruthy()
})

test('what does not fit is placed by hand, and undone', async () => {
  const { user, ready, sorts } = box([delivery('lost')])
  await ready()
  await user.type(await screen.findByLabelText('Whose it is'), 'lind{Enter}')
  expect(closeUp().getByText('Bo Lind')).toBeTruthy()
  // The assessment that the box named is chosen already.
  await user.click(closeUp().getByRole('button', { name: 'Place it there' }))
  await waitFor(() => expect(sorts).toEqual([['lost', { to: 'script', studentId: 'bo', assessmentId: 'essay' }]]))
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(sorts.at(-1)).toEqual(['lost', { to: 'waiting' }]))
})

test('without a person and an assessment nothing can be placed', async () => {
  const { user, ready } = box([delivery('lost', { assessment: 'Esay' })])
  await ready()
  const place = await screen.findByRole<HTMLButtonElement>('button', { name: 'Place it there' })
  expect(place.disabled).toBe(true)
  await user.type(screen.getByLabelText('Whose it is'), 'ada{Enter}')
  expect(place.disabled).toBe(true)
  await user.selectOptions(screen.getByLabelText('For which assessment'), 'Talk')
  expect(place.disabled).toBe(false)
})

test('what was placed wrongly is taken back; undo puts it where it was', async () => {
  const { user, ready, sorts } = box([placed('walk', { attempt: 2, daysLate: 3 })])
  await ready()
  expect(await screen.findByText('· late by 3 days')).toBeTruthy()
  await user.click(await screen.findByRole('button', { name: 'Take it back to be sorted' }))
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() =>
    expect(sorts).toEqual([
      ['walk', { to: 'waiting' }],
      ['walk', { to: 'script', studentId: 'ada', assessmentId: 'essay' }],
    ]),
  )
})

test('it is set aside with a reason; what was set aside goes back there when placing it is undone', async () => {
  const { user, ready, sorts } = box([
    delivery('lost'),
    delivery('old', { state: 'set aside', why: 'A holiday picture.', candidate: '100' }),
  ])
  await ready()
  await user.type(await screen.findByLabelText(/Or set it aside/), 'Not of this course.{Enter}')
  await waitFor(() => expect(sorts.at(-1)).toEqual(['lost', { to: 'set aside', why: 'Not of this course.' }]))
  ;(document.activeElement as HTMLElement).blur()
  await user.keyboard('{ArrowDown}')
  // Its number is somebody's: they are proposed.
  expect(closeUp().getByText('Ada Holm')).toBeTruthy()
  await user.click(closeUp().getByRole('button', { name: 'Place it there' }))
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(sorts.at(-1)).toEqual(['old', { to: 'set aside', why: 'A holiday picture.' }]))
})

test('what is neither text nor PDF can only be taken out or set aside; who only looks on sorts nothing', async () => {
  const first = box([delivery('movie', { kind: 'other', fileName: 'movie.mkv' })])
  await first.ready()
  expect(await screen.findByRole('link', { name: 'Take it out to look at it' })).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Place it there' })).toBeNull()
  cleanup()
  const looking = box([delivery('lost')], { decides: false, inBox: 3 })
  await looking.ready()
  expect(screen.queryByRole('button', { name: /Collect|Place it there|Set it aside/ })).toBeNull()
})
