import { screen, within } from '@testing-library/react'
import { routes, type OwnWork } from '#contract'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { OneWork } from './OneWork'

type Work = OwnWork['work'][number]
const work = (more: Partial<Work>): Work => ({
  id: 'map',
  assessment: 'Map',
  due: '2026-11-16',
  released: true,
  mark: 12,
  outOf: 20,
  status: 'in',
  remarks: [],
  levels: null,
  standard: null,
  exemplars: [],
  asking: null,
  handIn: null,
  ...more,
})
const asked: NonNullable<Work['asking']>['questions'][number] = {
  id: 'q',
  about: 'Relief',
  reason: 'The crag is drawn.',
  at: '2026-11-20T10:00:00.000Z',
  markThen: 11,
  answer: null,
}
const criteria = [
  { id: 'relief', title: 'Relief' },
  { id: 'line', title: 'Line' },
]

test('a question can be asked until the day that is said, about the whole or one criterion, and keeps its words where it is refused', async () => {
  let refuse = true
  const { sent } = serverAnswers([[routes.ask, () => (refuse ? new Refuses(409, 'The days are over.') : undefined)]])
  const { user } = inPage(<OneWork courseId="c" work={work({ asking: { until: '2026-12-04', criteria, questions: [] } })} />)
  expect(screen.getByText('until Friday 4 December')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Ask about this mark' }))
  await user.selectOptions(screen.getByLabelText('What it is about'), 'Line')
  const reason = screen.getByLabelText('What should be looked at again, and why')
  await user.type(reason, 'Too short')
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Ask' }).disabled).toBe(true)
  await user.type(reason, ', but long enough.')
  await user.click(screen.getByRole('button', { name: 'Ask' }))
  expect((await screen.findByRole('alert')).textContent).toBe('The days are over.')
  expect((reason as HTMLTextAreaElement).value).toBe('Too short, but long enough.')
  refuse = false
  await user.click(screen.getByRole('button', { name: 'Ask' }))
  expect(await screen.findByText(/^Asked\. Whoever teaches/)).toBeTruthy()
  expect(sent.at(-1)!.body).toEqual({ assessmentId: 'map', criterionId: 'line', reason: 'Too short, but long enough.' })
})

test('what was asked waits or is answered, with the mark as it was then where it is another now', () => {
  const answer = { words: 'It counts now.', at: '2026-11-21T10:00:00.000Z' }
  inPage(
    <OneWork
      courseId="c"
      work={work({ asking: { until: null, criteria, questions: [asked, { ...asked, id: 'r', about: null, markThen: 12, answer }] } })}
    />,
  )
  expect(screen.getAllByRole('article').map((a) => a.textContent)).toEqual([
    'You asked on 20 November about Relief, when the mark was 11:The crag is drawn.It waits for an answer.',
    'You asked on 20 November:The crag is drawn.It counts now. Answered on 21 November.',
  ])
  expect(screen.getByText('The days for asking about it are over.')).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Ask about this mark' })).toBeNull()
})

describe('handing in', () => {
  const file = (name: string, size = 4) => new File([new Uint8Array(size).fill(65)], name, { type: 'text/plain' })
  const open = { open: true, why: null, attempts: [] }

  test('answers with a receipt; what is too large is not sent', async () => {
    const receipt = { fileName: 'map.txt', at: '2026-11-28T10:00:00.000Z', daysLate: 2, attempt: 1, hash: 'ab12' }
    const { sent } = serverAnswers([[routes.handIn, () => receipt]])
    const { user } = inPage(<OneWork courseId="c" work={work({ mark: null, released: false, handIn: open })} />)
    const picker = screen.getByLabelText('File of Map')
    await user.upload(picker, file('large.txt', 10_000_001))
    expect((await screen.findByRole('alert')).textContent).toMatch(/large.txt is over 10 MB/)
    expect(sent).toEqual([])
    await user.upload(picker, file('map.txt'))
    expect(await screen.findByText('map.txt is handed in, 2 days late. The receipt stands above.')).toBeTruthy()
    expect(sent[0]!.body).toEqual({ fileName: 'map.txt', file: 'QUFBQQ==' })
    expect(screen.queryByRole('alert')).toBeNull()
  })

  test('what came stands with its receipt, and why no more is taken', () => {
    const attempts = [{ fileName: 'map.pdf', at: '2026-11-16T10:00:00.000Z', daysLate: 1, hash: 'cd34' }]
    inPage(<OneWork courseId="c" work={work({ handIn: { open: false, why: 'It has come back already.', attempts } })} />)
    const region = screen.getByRole('region', { name: 'Handing in Map' })
    expect(within(region).getByRole('listitem').textContent).toBe('map.pdf Mon 16 Nov, 10:00, 1 day lateReceipt, SHA-256: cd34')
    expect(within(region).getByText('It has come back already.')).toBeTruthy()
    expect(within(region).queryByRole('button')).toBeNull()
  })
})

test('remarks stand beneath the criterion that they are on, those of all readers; others with what was said of the whole', () => {
  const standard = {
    kind: 'scheme' as const,
    id: 's',
    title: 'Book',
    version: 1,
    body: { criteria: [{ id: 'e', title: 'Entries', max: 15, words: '' }] },
  }
  const part = (title: string, words: string) => ({ title, words, points: null })
  inPage(
    <OneWork
      courseId="c"
      work={work({
        levels: { standard, judged: { picks: { e: 10 }, judgement: null, mark: null }, agreed: true },
        remarks: [
          { comment: 'Sound.', parts: [part('Entries', 'No instrument named.'), part('Neatness', 'Legible.')] },
          { comment: '', parts: [part('Entries', 'Times are missing.')] },
        ],
      })}
    />,
  )
  const reached = screen.getByRole('region', { name: 'What your Map reached' })
  expect([...reached.querySelectorAll('blockquote')].map((q) => q.textContent)).toEqual([
    'Sound.',
    'Neatness: Legible.',
    'No instrument named.',
    'Times are missing.',
  ])
})
