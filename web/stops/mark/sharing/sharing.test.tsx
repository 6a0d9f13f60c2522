import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import { routes, type Sharing as Shared, type SharingTried } from '#contract'
import { assessment, planOf } from '../../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import type { Rule } from './rule'
import { Sharing } from './Sharing'

const load = (id: string, name: string, more: Partial<Shared['loads'][number]> = {}): Shared['loads'][number] => ({
  id,
  name,
  teaches: [],
  allotted: 0,
  draft: 0,
  handedIn: 0,
  due: null,
  ...more,
})
const shared = (more: Partial<Shared> = {}): Shared => ({
  assessment: {
    id: 'essay',
    title: 'Essay',
    marking: 'rubric',
    readingsWanted: 2,
    version: 1,
    blind: false,
    sees: { marks: false, comments: false, notes: false },
  },
  scripts: 30,
  short: 30,
  withdrawn: 0,
  usualZone: 1,
  loads: [load('mo', 'Mo Lund', { teaches: ['East'] }), load('ny', 'Ny Asplund'), load('pia', 'Pia Brook')],
  groups: [],
  latest: null,
  rule: null,
  ...more,
})
const tried = (more: Partial<SharingTried> = {}): SharingTried => ({
  loads: ['mo', 'ny', 'pia'].map((id) => ({ id, name: id, before: 0, after: 20, given: 20, kept: 0 })),
  readings: 60,
  stay: 0,
  taken: 0,
  opens: 0,
  readingsWanted: 2,
  ownSection: 0,
  groups: [['Mo', 'Ny', 'Pia']],
  joining: [],
  sample: [],
  notes: [],
  ...more,
})
const PLAN = planOf({ assessments: [assessment('essay', { readingsWanted: 2 }), assessment('talk')] })

function sharing({
  of = shared(),
  would = tried(),
  decides = true,
}: { of?: Shared; would?: SharingTried | Refuses; decides?: boolean } = {}) {
  const rules: Rule[] = []
  const share = { now: (): unknown => ({ ...of, latest: 7 }) }
  const server = serverAnswers([
    [routes.plan, () => PLAN],
    [routes.sharing, () => of],
    [routes.trySharing, (rule: Rule) => (rules.push(rule), would)],
    [routes.shareOut, () => share.now()],
    [routes.takeBackSharing, () => of],
    [routes.setReadBy, () => null],
    [routes.setBlindness, () => null],
    [routes.remind, ({ markerIds }: { markerIds: string[] }) => ({ sent: markerIds.length })],
  ])
  const page = inPage(<Sharing courseId="c" decides={decides} nav={null} />)
  const writes = () => server.sent.filter((s) => !s.address.endsWith('/try'))
  return { ...page, share, rules, writes, ready: () => screen.findByRole('row', { name: /Mo Lund/ }) }
}

test('nothing is shared out before it was seen: loads, links, and what it would give; then it is, and can be undone', async () => {
  const { user, writes, ready, rules } = sharing()
  expect((await ready()).textContent).toMatch(/Mo LundEast/)
  expect(screen.getByText('30 have fewer readers than that.')).toBeTruthy()
  expect(screen.getByText('Nobody reads anything yet.')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'See what it would give' }))
  expect(await screen.findByText('60 readings')).toBeTruthy()
  expect(screen.getByText(/All 3 share scripts/)).toBeTruthy()
  expect(within(await ready()).getByText('20')).toBeTruthy()
  expect(writes()).toEqual([])
  await user.keyboard('{Control>}{Enter}{/Control}')
  await waitFor(() => expect(writes()[0]!.body).toEqual(rules.at(-1)))
  expect(rules.at(-1)).toMatchObject({ how: 'draw', readings: 2, avoidOwnSection: true })
  await user.click(await screen.findByRole('button', { name: 'Undo: share Essay out' }))
  await waitFor(() => expect(writes()[1]!.address).toMatch(/7$/))
})

test('what is set for the next sharing while the one before is still being written stays', async () => {
  const { user, share, ready, rules } = sharing()
  let answered: (of: Shared) => void = () => undefined
  share.now = () => new Promise((done) => (answered = done))
  await ready()
  await user.click(screen.getByRole('button', { name: 'See what it would give' }))
  await screen.findByText('60 readings')
  await user.click(screen.getByRole('button', { name: /^Share it out/ }))
  await user.click(screen.getByRole('button', { name: 'a sample, read again' }))
  answered({ ...shared(), latest: 7 })
  await screen.findByRole('button', { name: 'Undo: share Essay out' })
  await waitFor(() => expect(screen.getByText(/✓ saved/)).toBeTruthy())
  expect(screen.getByLabelText('Share in percent')).toBeTruthy()
  expect(rules.at(-1)!.how).toBe('sample')
})

test('somebody falls ill: their time set to 0 leaves them out, and what is begun stays', async () => {
  const { user, rules, ready } = sharing({
    of: shared({ loads: [load('mo', 'Mo Lund', { allotted: 20, draft: 2, handedIn: 5 }), load('ny', 'Ny Asplund', { allotted: 20 })] }),
    would: tried({ loads: [{ id: 'mo', name: 'Mo', before: 20, after: 7, given: 0, kept: 7 }], readings: 13, stay: 27, taken: 13 }),
  })
  await ready()
  const time = screen.getByLabelText('Time that Mo Lund has for it')
  await user.clear(time)
  await user.type(time, '0{Enter}')
  expect((await screen.findByText('13 readings')).parentElement!.textContent).toBe(
    '13 readings given out anew, 27 stay with their readers (7 begun or done), 13 taken from their readers.',
  )
  expect(rules.at(-1)!.markers).toEqual([{ id: 'ny', capacity: 1 }])
  expect(screen.getByText('20 →').parentElement!.textContent).toBe('20 → 7')
})

test('where markers fall apart it is said who, and what would join them; what cannot be met is said as well', async () => {
  const { user, ready } = sharing({
    would: tried({
      groups: [['Mo', 'Ny'], ['Pia']],
      joining: [{ student: '4711', marker: 'Pia' }],
      ownSection: 3,
      notes: ['Two readings need two markers.'],
    }),
  })
  await ready()
  await user.click(screen.getByRole('button', { name: 'by section' }))
  expect(await screen.findByText(/2 groups share no script/)).toBeTruthy()
  expect(screen.getByText('1 further reading would join them: 4711 also by Pia.')).toBeTruthy()
  expect(screen.getByText(/3 could not be kept from their own section/)).toBeTruthy()
  expect(screen.getByText('Two readings need two markers.')).toBeTruthy()
  expect(screen.queryByLabelText('Time that Mo Lund has for it')).toBeNull()
})

test('panels are asked for before anything is drawn', async () => {
  const { user, rules, ready } = sharing()
  await ready()
  await user.click(screen.getByRole('button', { name: 'by panels' }))
  expect(screen.getByText(/Put somebody on every panel/)).toBeTruthy()
  expect(rules).toEqual([])
  await user.selectOptions(screen.getByLabelText('Put somebody on panel 1'), 'Mo Lund')
  await waitFor(() => expect(rules.at(-1)?.panels).toEqual([['mo']]))
  await user.click(screen.getByRole('button', { name: 'another panel' }))
  await user.selectOptions(screen.getByLabelText('Put somebody on panel 2'), 'Mo Lund (sits on another)')
  await waitFor(() => expect(rules.at(-1)?.panels).toEqual([['mo'], ['mo']]))
  await user.click(screen.getByRole('button', { name: 'Take Mo Lund off panel 1' }))
  await user.click(screen.getAllByRole('button', { name: 'drop it' })[0]!)
  expect([screen.getByRole('button', { name: 'Take Mo Lund off panel 1' }), screen.queryByText('Panel 2')]).toEqual([
    expect.anything(),
    null,
  ])
})

test('a sample says why each script is in it; drawing again is another seed', async () => {
  const { user, rules, ready } = sharing({
    would: tried({
      readings: 9,
      sample: [
        { why: 'fails', scripts: 2 },
        { why: 'drawn', scripts: 7 },
      ],
    }),
  })
  await ready()
  await user.click(screen.getByRole('button', { name: 'a sample, read again' }))
  expect(await screen.findByText(/: 2 fails, 7 drawn/)).toBeTruthy()
  const share = screen.getByLabelText('Share in percent')
  await user.clear(share)
  await user.type(share, '25{Enter}')
  await waitFor(() => expect(rules.at(-1)!.sample).toEqual({ share: 0.25, least: 10, zone: 1 }))
  const { seed } = rules.at(-1)!
  await user.click(screen.getByRole('button', { name: 'draw again' }))
  await waitFor(() => expect(rules.at(-1)!.seed).toBe(seed + 1))
})

test('what the server refuses is said where it was asked', async () => {
  const { user, ready } = sharing({ would: new Refuses(409, 'Essay is marked by mark, which is typed in the sheet.') })
  await ready()
  await user.click(screen.getByRole('button', { name: 'See what it would give' }))
  expect((await screen.findByRole('alert')).textContent).toMatch(/typed in the sheet/)
  expect(screen.queryByRole('button', { name: /^Share it out/ })).toBeNull()
})

test('a day by which it is wanted, and a reminder to those who have something left or are late', async () => {
  const { user, writes, ready } = sharing({
    of: shared({
      loads: [
        load('mo', 'Mo Lund', { allotted: 10, handedIn: 10 }),
        load('ny', 'Ny Asplund', { allotted: 10, handedIn: 4, due: '2020-01-01' }),
        load('pia', 'Pia Brook', { allotted: 10 }),
      ],
    }),
  })
  await ready()
  fireEvent.change(screen.getByLabelText('Wanted from Pia Brook by'), { target: { value: '2026-12-01' } })
  await waitFor(() => expect(writes()[0]!.body).toEqual({ due: '2026-12-01' }))
  await user.type(screen.getByLabelText('A few words of your own'), 'Nearly there.')
  await user.click(screen.getByRole('button', { name: 'Only the 1 who are late' }))
  expect(await screen.findByText(/1 letter sent/)).toBeTruthy()
  expect(writes().at(-1)!.body).toEqual({ markerIds: ['ny'], words: 'Nearly there.' })
  await user.click(screen.getByRole('button', { name: 'Remind the 2 who have something left' }))
  expect(await screen.findByText(/2 letters sent/)).toBeTruthy()
})

test('what markers see of each other is set apart: marks, comments, notes', async () => {
  const { user, writes, ready } = sharing()
  await ready()
  await user.click(screen.getByLabelText('comments for the student'))
  await waitFor(() => expect(writes()[0]!.body).toEqual({ blind: false, sees: { marks: false, comments: true, notes: false } }))
  await user.click(screen.getByLabelText('numbers in the place of names'))
  await waitFor(() => expect(writes()[1]!.body).toEqual({ blind: true, sees: { marks: false, comments: false, notes: false } }))
})

test('who only looks on sees it and can set nothing', async () => {
  const { ready } = sharing({ decides: false })
  await ready()
  expect(screen.queryByRole('button', { name: 'See what it would give' })).toBeNull()
  expect(screen.queryByLabelText('Wanted from Mo Lund by')).toBeNull()
  expect(screen.getByLabelText<HTMLInputElement>('notes for markers').disabled).toBe(true)
})

test('it goes on from how it was shared out last; scripts that an ill marker began are moved on purpose alone', async () => {
  const kept: Rule = {
    how: 'draw',
    readings: 2,
    markers: [
      { id: 'mo', capacity: 1 },
      { id: 'ny', capacity: 3 },
    ],
    panels: [],
    avoidOwnSection: false,
    keep: false,
    moveBegun: [],
    seed: 12,
    sample: { share: 0.1, least: 10, zone: 1 },
  }
  const loads = [load('mo', 'Mo Lund', { allotted: 20, draft: 2 }), load('ny', 'Ny Asplund', { allotted: 20 })]
  const { user, rules, ready } = sharing({ of: shared({ rule: kept, loads }), would: tried({ readingsWanted: 3 }) })
  await ready()
  expect(screen.getByLabelText<HTMLInputElement>('Time that Ny Asplund has for it').value).toBe('3')
  expect(screen.getByLabelText<HTMLInputElement>('who reads what stays').checked).toBe(true)
  const time = screen.getByLabelText('Time that Mo Lund has for it')
  await user.clear(time)
  await user.type(time, '0{Enter}')
  await user.click(await screen.findByLabelText(/the 2 scripts that Mo Lund has begun go to others too/))
  await waitFor(() => expect(rules.at(-1)).toEqual({ ...kept, keep: true, markers: [{ id: 'ny', capacity: 3 }], moveBegun: ['mo'] }))
  expect(await screen.findByText('3 readings')).toBeTruthy()
})
