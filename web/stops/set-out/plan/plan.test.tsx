import { screen, waitFor, within } from '@testing-library/react'
import { routes, type Assessment, type KeptTrial, type Plan, type Policy } from '#contract'
import { TrialProvider, useTrial } from '../../../course/trial'
import { assessment, component, planOf } from '../../../testing/data'
import { inPage, serverAnswers } from '../../../testing/in-page'
import { usePlanQuery } from '../../../course/plan'
import { PlanPart } from './PlanPart'

const given = (id: string, componentId: string, more: Partial<Assessment> = {}) => assessment(id, { componentId, ...more })
const hydrography = (more: Partial<Plan> = {}): Plan =>
  planOf({
    sections: [{ id: 'east', code: 'E', name: 'East', teacher: null, weekdays: [1], firstDay: null, students: 3 }],
    components: [component('work', 40), component('exam', 60)],
    assessments: [given('essay', 'work'), given('sketch', 'work'), given('paper', 'exam', { outOf: 60, worth: 60 })],
    releases: [{ kind: 'confirmed' }],
    placements: [
      [0, 0, '2026-10-05', 0],
      [1, 0, '2026-10-12', 0],
      [2, 0, '2026-12-14', 0],
    ],
    ...more,
  })

function Shown() {
  const { data } = usePlanQuery('c')
  return data ? <PlanPart decided={data} nav={null} /> : null
}
const TrialSize = () => <p>{useTrial().changes.length} in trial</p>

/** The plan as the server keeps it: what is written is what is fetched next. */
function setOut(plan = hydrography()) {
  let stored = plan
  const server = serverAnswers([
    [routes.plan, () => stored],
    [routes.trial, () => ({ changes: [], version: 0 })],
    [routes.keepTrial, ({ changes, version }: KeptTrial) => ({ changes, version: version + 1 })],
    [
      routes.editComponent,
      ({ version, ...patch }: { version: number }, address) => {
        const id = address.split('/').at(-1)!
        stored = { ...stored, components: stored.components.map((c) => (c.id === id ? { ...c, ...patch, version: version + 1 } : c)) }
        return stored.components.find((c) => c.id === id)
      },
    ],
    [
      routes.editAssessment,
      ({ version, away, ...patch }: { version: number; away?: boolean }, address) => {
        const id = address.split('/').at(-1)!
        const row = { ...stored.assessments.find((a) => a.id === id)!, ...patch, version: version + 1 }
        if (row.worthFollows && !('worth' in patch)) row.worth = row.outOf
        const gone = stored.assessments.findIndex((a) => a.id === id)
        stored = away
          ? {
              ...stored,
              assessments: stored.assessments.filter((a) => a.id !== id),
              placements: stored.placements.flatMap(([a, ...rest]) => (a === gone ? [] : [[a > gone ? a - 1 : a, ...rest]])),
              away: [{ id, title: row.title, decisionId: null, version: row.version }],
            }
          : { ...stored, assessments: stored.assessments.map((a) => (a.id === id ? row : a)) }
        return row
      },
    ],
    [routes.orderAssessments, () => null],
    [routes.addComponent, () => component('new', null)],
    [routes.setPolicy, ({ policy }: { policy: Policy }) => ({ policy })],
  ])
  const page = inPage(
    <TrialProvider head={stored.head}>
      <TrialSize />
      <Shown />
    </TrialProvider>,
  )
  const weights = () => stored.components.map((c) => c.weight)
  const ready = () => screen.findByRole('heading', { name: 'What counts, and how much' })
  return { ...page, ...server, stored: () => stored, weights, ready }
}
const type = async (user: ReturnType<typeof setOut>['user'], label: string, text: string) => {
  const field = screen.getByLabelText(label)
  await user.clear(field)
  await user.type(field, `${text}{Enter}`)
}
const rowOf = (title: string) => within(screen.getByLabelText(`Title of ${title}`).closest('tr')!)

test('what each really carries is reckoned from weight and worth, and follows as they are typed', async () => {
  const { user, ready, stored } = setOut()
  await ready()
  expect(rowOf('Essay').getByText('20.0')).toBeTruthy()
  await type(user, 'Essay is worth', '60')
  await waitFor(() => expect(rowOf('Essay').getByText('30.0')).toBeTruthy())
  expect(rowOf('Sketch').getByText('10.0')).toBeTruthy()
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(rowOf('Essay').getByText('20.0')).toBeTruthy())
  expect(stored().assessments[0]!.worth).toBe(20)
})

test('a divider of the bar moves weight between its neighbours by key, never below nothing', async () => {
  const { user, ready, weights } = setOut()
  await ready()
  screen.getByRole('slider', { name: 'Between Work and Exam' }).focus()
  await user.keyboard('{ArrowRight}')
  await waitFor(() => expect(weights()).toEqual([41, 59]))
  for (let i = 0; i < 10; i++) await user.keyboard('{PageDown}')
  await waitFor(() => expect(weights()).toEqual([0, 100]))
})

test('weights that do not add up are said, and brought to 100 with a press', async () => {
  const { user, ready, weights } = setOut(hydrography({ components: [component('work', 40), component('exam', null)] }))
  await ready()
  expect(screen.getByText('sum 40: shares are taken of this sum')).toBeTruthy()
  expect(screen.getByText('weight is missing')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'spread the remaining 60' }))
  await waitFor(() => expect(weights()).toEqual([40, 60]))
  expect(await screen.findByText('sum 100')).toBeTruthy()
})

test('what is odd stands in the row, in words', async () => {
  const { ready } = setOut(
    hydrography({
      assessments: [
        given('essay', 'work', { worth: null }),
        given('sketch', 'work', { passMark: 25 }),
        given('paper', 'exam', { outOf: 1 }),
      ],
      placements: [[0, 0, null, 0]],
    }),
  )
  await ready()
  expect(rowOf('Essay').getByText('worth is missing: it carries nothing yet')).toBeTruthy()
  expect(rowOf('Sketch').getByText('the pass mark is over 20')).toBeTruthy()
  expect(rowOf('Paper').getByText('marked out of 1: was a percent meant?')).toBeTruthy()
  expect(rowOf('Paper').getByText('none')).toBeTruthy()
})

test('the proof gives full marks everywhere and takes one away: the grade falls by what it carries', async () => {
  const { ready } = setOut()
  await ready()
  const proof = within(screen.getByRole('heading', { name: 'Do the sums hold?' }).closest('section')!)
  const rows = proof.getAllByRole('row').slice(1)
  expect(rows.map((r) => r.textContent)).toEqual(['Essay80.0020.00', 'Sketch80.0020.00', 'Paper40.0060.00'])
  expect(proof.getByText(/Every fall equals the weight in the plan/)).toBeTruthy()
})

test('with marks about, what moves grades becomes a trial; titles are written at once', async () => {
  const { user, ready, sent, weights } = setOut(hydrography({ hasMarks: true }))
  await ready()
  await type(user, 'Weight of Work', '50')
  expect(screen.getByText('1 in trial')).toBeTruthy()
  expect(weights()).toEqual([40, 60])
  expect(screen.getByLabelText<HTMLInputElement>('Weight of Work').value).toBe('50')
  await user.click(screen.getByLabelText('Essay counts'))
  expect(screen.getByText('2 in trial')).toBeTruthy()
  expect(rowOf('Essay').getByText('not counted')).toBeTruthy()
  await type(user, 'Title of Sketch', 'Sketch map')
  await waitFor(() => expect(sent.some((s) => (s.body as { title?: string }).title === 'Sketch map')).toBe(true))
  expect(screen.getByText('2 in trial')).toBeTruthy()
})

test('rows go up and down with Alt and an arrow; in another order, or found, they are only looked at', async () => {
  const { user, ready, sent } = setOut()
  await ready()
  screen.getByLabelText('Title of Essay').focus()
  await user.keyboard('{Alt>}{ArrowDown}{/Alt}')
  await waitFor(() => expect(sent.at(-1)!.body).toEqual({ ids: ['sketch', 'essay', 'paper'] }))
  await user.selectOptions(screen.getByLabelText('Order of the assessments'), 'by title')
  expect(screen.queryByLabelText('Move Essay')).toBeNull()
  await user.type(screen.getByLabelText('Find in the plan'), 'pap')
  expect(screen.queryByLabelText('Title of Essay')).toBeNull()
  expect(screen.getByLabelText('Title of Paper')).toBeTruthy()
})

test('taken away it stands below the table, and is brought back', async () => {
  const { user, ready, stored } = setOut()
  await ready()
  await user.click(screen.getByLabelText('Title of Essay'))
  await user.click(screen.getByRole('button', { name: 'Take it away' }))
  await waitFor(() => expect(stored().away).toHaveLength(1))
  expect(await screen.findByRole('button', { name: 'bring back' })).toBeTruthy()
  expect(screen.queryByLabelText('Title of Essay')).toBeNull()
})

test('an empty plan begins with a component, and a title that is missing is asked for', async () => {
  const { user, ready, sent } = setOut(hydrography({ components: [], assessments: [], placements: [] }))
  await ready()
  await user.keyboard('a')
  await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: /^Add/ }))
  expect(await screen.findByText(/title/i, { selector: '.invalid-feedback' })).toBeTruthy()
  await user.type(screen.getByLabelText('Title'), 'Practicals{Enter}')
  await waitFor(() => expect(sent.at(-1)!.body).toMatchObject({ title: 'Practicals', weight: 100 }))
})

test('policies say with the real engine what they come to', async () => {
  const { user, ready, sent } = setOut()
  await ready()
  await user.keyboard('p')
  const example = (words: string) => screen.getByText(words).nextElementSibling!.textContent
  expect([example('80 of 100, one day late'), example('missing'), example('69.95 of 100'), example('104 of 100')]).toEqual([
    '80',
    '0',
    '70',
    '100',
  ])
  await user.selectOptions(screen.getByLabelText('Late work'), 'loses, a day,')
  await waitFor(() => expect(sent.at(-1)!.body).toMatchObject({ policy: { late: { kind: 'perDay', percent: 5, maxDays: null } } }))
})
