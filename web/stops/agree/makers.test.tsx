import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import { routes, type Library, type OutcomeBody, type RubricBody, type ScaleBody, type SchemeBody, type Standard } from '#contract'
import { page } from '../../api/client'
import { inPage, Refuses, reload, serverAnswers } from '../../testing/in-page'
import { entry } from '../../testing/library-entry'
import { smallTable } from '../../testing/small-course'
import { useLibrary } from './library'
import { OutcomeMaker } from './OutcomeMaker'
import { RubricMaker } from './RubricMaker'
import { ScaleMaker } from './ScaleMaker'
import { SchemeMaker } from './SchemeMaker'

jest.mock('../../course/course', () => ({ useCourseSoFar: () => ({ course: { table: smallTable([]) } }) }))

const head = entry('r1', 'Field notebook', { ownerId: 'me', state: 'draft', revision: 4 })
const use = (outOf: number) => ({ outOf }) as Library['rubrics'][number]['uses'][number]
const level = (points: number, words: string) => ({ points, words })
const criterion = (id: string, title: string, more: object = {}) => ({
  id,
  title,
  ranges: false,
  penalty: false,
  levels: [level(0, `${title} low`), level(2, `${title} middle`), level(4, `${title} high`)],
  ...more,
})
const RUBRIC = { ...head, criteria: [criterion('a', 'Aim'), criterion('b', 'Sketch')] }
const late = criterion('late', 'Late', { penalty: true, levels: [level(0, 'in time'), level(3, 'late')] })

const SIGNED_IN = { known: [[['me'], { id: 'me', name: 'Ola Quist', look: null }] as const] }

/** Saves what is edited, and keeps it as the library would. */
function library() {
  let revision = head.revision
  const moved = jest.fn()
  const saved: Standard[] = []
  const answers = serverAnswers([
    [
      routes.editStandard,
      ({ revision: over, standard }: { revision: number; standard: Standard }) => {
        if (over !== revision) return new Refuses(409, 'Somebody changed it meanwhile.')
        saved.push(standard)
        return { id: head.id, revision: ++revision }
      },
    ],
  ])
  return Object.assign(answers, { moved, saved, latest: <B,>() => saved.at(-1)?.body as B })
}

describe('a rubric', () => {
  const making = (of = RUBRIC as Library['rubrics'][number]) => {
    const lib = library()
    const page = inPage(<RubricMaker courseId="c" rubric={of} outcomes={[]} onMoved={lib.moved} />, SIGNED_IN)
    const rubric = () => lib.latest<RubricBody>().criteria
    const points = () => rubric().map((c) => c.levels.map((l) => l.points))
    return { ...page, ...lib, rubric, points }
  }
  const type = async (user: ReturnType<typeof inPage>['user'], label: string, text: string) => {
    const field = screen.getByLabelText(label)
    await user.clear(field)
    await user.type(field, `${text}{Enter}`)
  }

  test('a criterion’s maximum is typed and its levels follow in proportion; undone and redone with keys', async () => {
    const { user, points, saved } = making()
    await type(user, 'Maximum of Aim', '10')
    await waitFor(() => expect(points()[0]).toEqual([0, 5, 10]))
    await user.keyboard('{Control>}z{/Control}')
    await waitFor(() => expect(points()[0]).toEqual([0, 2, 4]))
    await user.keyboard('{Control>}y{/Control}')
    await waitFor(() => expect(points()[0]).toEqual([0, 5, 10]))
    expect(saved).toHaveLength(3)
  })

  test('points snap to the step that is chosen', async () => {
    const { user, points } = making()
    await user.selectOptions(screen.getByLabelText('Points in steps of'), '1')
    await type(user, 'Maximum of Aim', '7')
    await waitFor(() => expect(points()[0]).toEqual([0, 4, 7]))
    await user.selectOptions(screen.getByLabelText('Points in steps of'), '0.25')
    const stop = screen.getByRole('slider', { name: 'Level 2 of Aim' })
    stop.focus()
    await user.keyboard('{ArrowRight}')
    await waitFor(() => expect(points()[0]).toEqual([0, 4.25, 7]))
  })

  test('a stop is stepped by key, never past its neighbours', async () => {
    const { user, points, saved } = making()
    screen.getByRole('slider', { name: 'Level 2 of Aim' }).focus()
    await user.keyboard('{PageUp}{PageUp}')
    await waitFor(() => expect(points()[0]).toEqual([0, 3.5, 4]))
    expect(saved).toHaveLength(1)
  })

  test('a stop is pulled with the pointer to where it is let go', async () => {
    const { points } = making()
    const stop = screen.getByRole('slider', { name: 'Level 2 of Aim' })
    stop.closest('svg')!.getBoundingClientRect = () => ({ left: 0, width: 820 }) as DOMRect
    // 772 pixels between the edges stand for 4 × 1.08 points.
    fireEvent.pointerDown(stop, { pointerId: 1 })
    fireEvent(stop, new MouseEvent('pointermove', { bubbles: true, clientX: 24 + (3 / 4.32) * 772 }))
    fireEvent.pointerUp(stop)
    await waitFor(() => expect(points()[0]).toEqual([0, 3, 4]))
  })

  test('all alike: levels are added, moved and taken away in all, each with its own words; a penalty stands apart', async () => {
    const { user, points, rubric, latest } = making({ ...RUBRIC, criteria: [...RUBRIC.criteria, late] })
    await user.click(screen.getByLabelText('criteria all alike'))
    await type(user, 'Points of level 2 of Sketch', '3')
    await waitFor(() =>
      expect(points()).toEqual([
        [0, 3, 4],
        [0, 3, 4],
        [0, 3],
      ]),
    )
    await user.click(screen.getByLabelText('Another level of Aim'))
    await waitFor(() =>
      expect(points().slice(0, 2)).toEqual([
        [0, 3, 4, 5],
        [0, 3, 4, 5],
      ]),
    )
    await user.click(screen.getByLabelText('Remove level 1 of Aim'))
    await waitFor(() => expect(rubric()[1]!.levels.map((l) => l.words)).toEqual(['Sketch middle', 'Sketch high', '']))
    await type(user, 'Points of the whole', '20')
    await waitFor(() =>
      expect(points()).toEqual([
        [6, 8, 10],
        [6, 8, 10],
        [0, 3],
      ]),
    )
    await user.click(screen.getByRole('button', { name: 'Another criterion' }))
    await waitFor(() => expect(points()[3]).toEqual([6, 8, 10]))
    expect(latest<RubricBody>().alike).toBe(true)
    await user.click(screen.getByLabelText('criteria all alike'))
    await type(user, 'Points of level 1 of Aim', '1')
    await waitFor(() => expect(points().map((p) => p[0])).toEqual([1, 6, 0, 6]))
  })

  test('a criterion is duplicated with its levels, moved with Alt and an arrow, renamed, taken away', async () => {
    const { user, rubric } = making()
    await user.click(screen.getByLabelText('Duplicate Aim'))
    await waitFor(() => expect(rubric().map((c) => c.title)).toEqual(['Aim', 'Aim 2', 'Sketch']))
    expect(new Set(rubric().map((c) => c.id)).size).toBe(3)
    screen.getByRole('slider', { name: 'Level 1 of Sketch' }).focus()
    await user.keyboard('{Alt>}{ArrowUp}{/Alt}')
    await waitFor(() => expect(rubric().map((c) => c.title)).toEqual(['Aim', 'Sketch', 'Aim 2']))
    await type(user, 'Title of Aim 2', 'Accuracy')
    await user.click(screen.getByLabelText('Remove Aim'))
    await waitFor(() => expect(rubric().map((c) => c.title)).toEqual(['Sketch', 'Accuracy']))
  })

  test('ranges reach to just before the next level, and are typed', async () => {
    const { user, rubric } = making()
    await user.click(within(screen.getByRole('region', { name: 'Aim' })).getByLabelText('ranges'))
    await waitFor(() => expect(rubric()[0]!.levels.map((l) => l.to)).toEqual([1.5, 3.5, 4]))
    await type(user, 'Upper end of level 2 of Aim', '3')
    await waitFor(() => expect(rubric()[0]!.levels[1]!.to).toBe(3))
  })

  test('a finding is mended with a press: no level at 0, and a total that leaves awkward decimals', async () => {
    const bare = criterion('a', 'Aim', { levels: [level(3, 'some'), level(7, 'all')] })
    const { user, points } = making({ ...head, uses: [use(30)], criteria: [bare] })
    await user.click(screen.getByRole('button', { name: 'add a level at 0' }))
    await waitFor(() => expect(points()).toEqual([[0, 3, 7]]))
    await user.click(screen.getByRole('button', { name: 'make the whole 30' }))
    await waitFor(() => expect(points()[0]!.at(-1)).toBe(30))
    expect(screen.queryByRole('button', { name: /make the whole/ })).toBeNull()
  })

  test('comments kept ready, the best level first, and words for the whole', async () => {
    const { user, rubric, latest } = making()
    await user.click(screen.getByLabelText(/comments kept ready/))
    await user.type(screen.getByLabelText('Comment kept ready for level 3 of Aim'), 'Well argued.')
    await user.click(screen.getByLabelText(/best level down/))
    await waitFor(() => expect(rubric()[0]!.levels[2]).toEqual({ points: 4, words: 'Aim high', comment: 'Well argued.' }))
    await user.click(screen.getByRole('button', { name: 'add words for the whole' }))
    await user.click(screen.getByRole('button', { name: /another band/ }))
    await user.type(screen.getByLabelText('Words of band 1'), 'Work to show others.')
    await user.tab()
    await waitFor(() =>
      expect(latest<RubricBody>().bands).toEqual([
        { from: 0, words: '' },
        { from: 50, words: 'Work to show others.' },
      ]),
    )
    expect(latest<RubricBody>().descending).toBe(true)
    for (const n of [2, 1]) await user.click(screen.getByLabelText(`Remove band ${n}`))
    await waitFor(() => expect(latest<RubricBody>().bands).toBeUndefined())
  })

  test('what the server refuses is said at the rubric; what was typed stays', async () => {
    serverAnswers([[routes.editStandard, () => new Refuses(409, 'Somebody changed it meanwhile.')]])
    const { user } = inPage(<RubricMaker courseId="c" rubric={RUBRIC} outcomes={[]} onMoved={() => undefined} />, SIGNED_IN)
    await type(user, 'Title of Aim', 'Purpose')
    expect((await screen.findByRole('alert')).textContent).toBe('Somebody changed it meanwhile.')
    expect(screen.getByLabelText('Title of Purpose')).toBeTruthy()
    expect(screen.getByText('✕ not saved')).toBeTruthy()
  })

  /** A library in which another window has changed it since. */
  const changedElsewhere = () => {
    let there = { ...RUBRIC, title: 'Theirs', revision: 9 }
    const saved: string[] = []
    serverAnswers([
      [
        routes.editStandard,
        ({ revision, standard }: { revision: number; standard: Standard }) => {
          if (revision !== there.revision) return new Refuses(409, 'It was changed meanwhile.', { revision: there.revision })
          there = { ...there, title: standard.title, revision: revision + 1 }
          saved.push(standard.title)
          return { id: head.id, revision: there.revision }
        },
      ],
      [routes.library, () => ({ rubrics: [there], schemes: [], scales: [], outcomes: [] })],
    ])
    function Shown() {
      const { data } = useLibrary('c')
      return data ? <RubricMaker courseId="c" rubric={data.rubrics[0]!} outcomes={[]} onMoved={() => undefined} /> : null
    }
    const known: Library = { rubrics: [RUBRIC], schemes: [], scales: [], outcomes: [] }
    return { ...inPage(<Shown />, { known: [...SIGNED_IN.known, [['library', 'c'], known]] }), saved }
  }
  const titleIs = () => screen.getByLabelText<HTMLInputElement>('Title of the rubric').value

  test('changed in another window, nothing is saved until one has chosen; one’s own then goes on top', async () => {
    const { user, saved } = changedElsewhere()
    await type(user, 'Title of the rubric', 'Mine')
    expect((await screen.findByRole('alert')).textContent).toMatch(/was changed in another window/)
    await type(user, 'Title of the rubric', 'Mine again')
    expect(saved).toEqual([])
    await user.click(screen.getByRole('button', { name: 'Keep what is here' }))
    await waitFor(() => expect(saved).toEqual(['Mine again']))
    expect([screen.queryByRole('alert'), titleIs()]).toEqual([null, 'Mine again'])
  })

  test('or what is there is taken, and edited on', async () => {
    const { user, saved } = changedElsewhere()
    await type(user, 'Title of the rubric', 'Mine')
    await screen.findByRole('alert')
    await type(user, 'Title of Aim', 'Purpose')
    await user.click(screen.getByRole('button', { name: 'Take what is there' }))
    await waitFor(() => expect(titleIs()).toBe('Theirs'))
    expect([screen.queryByRole('alert'), screen.queryByText('✕ not saved')]).toEqual([null, null])
    await type(user, 'Title of the rubric', 'Theirs and mine')
    await waitFor(() => expect(saved).toEqual(['Theirs and mine']))
  })

  test('with the server away the last state is sent when it is back', async () => {
    const lib = library()
    const { user } = inPage(<RubricMaker courseId="c" rubric={RUBRIC} outcomes={[]} onMoved={lib.moved} />, SIGNED_IN)
    lib.away = true
    await type(user, 'Title of Aim', 'Purpose')
    expect((await screen.findByRole('alert')).textContent).toMatch(/sent when it is back/)
    await type(user, 'Title of Sketch', 'Drawing')
    lib.away = false
    await waitFor(() => expect(lib.latest<RubricBody>()?.criteria.map((c) => c.title)).toEqual(['Purpose', 'Drawing']), { timeout: 8000 })
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull())
  })

  test('made with the server away it waits over a reload, and is sent by the page that opens then', async () => {
    localStorage.clear()
    page.keepKey = btoa('k'.repeat(32))
    const lib = library()
    const first = inPage(<RubricMaker courseId="c" rubric={RUBRIC} outcomes={[]} onMoved={lib.moved} />, SIGNED_IN)
    lib.away = true
    await type(first.user, 'Title of Aim', 'Purpose')
    await screen.findByRole('alert')
    reload()
    lib.away = false
    inPage(<RubricMaker courseId="c" rubric={RUBRIC} outcomes={[]} onMoved={lib.moved} />, SIGNED_IN)
    expect(screen.getByLabelText('Title of Purpose')).toBeTruthy()
    await waitFor(() => expect(lib.latest<RubricBody>()?.criteria[0]!.title).toBe('Purpose'))
    await waitFor(() => expect(localStorage).toHaveLength(0))
  })

  test('where readings use it an edit makes the next version, and that is the one shown', async () => {
    const moved = jest.fn()
    serverAnswers([[routes.editStandard, () => ({ id: 'r2', revision: 1 })]])
    const { user } = inPage(<RubricMaker courseId="c" rubric={RUBRIC} outcomes={[]} onMoved={moved} />, SIGNED_IN)
    await type(user, 'Title of Aim', 'Purpose')
    await waitFor(() => expect(moved).toHaveBeenCalledWith('r2'))
  })
})

describe('a scale', () => {
  const labels = [
    { label: 'not yet', percent: 30, threshold: 0 },
    { label: 'sound', percent: 60, threshold: 45 },
  ]
  const making = (of = labels) => {
    const lib = library()
    const page = inPage(<ScaleMaker courseId="c" scale={{ ...head, title: 'Judgement', labels: of }} onMoved={lib.moved} />, SIGNED_IN)
    return { ...page, ...lib, scale: () => lib.latest<ScaleBody>().labels }
  }
  test('labels are added, named, typed, stepped by key, and taken away', async () => {
    const { user, scale } = making()
    await user.click(screen.getByRole('button', { name: 'Another label' }))
    const name = screen.getByLabelText('Name of label 3')
    await user.clear(name)
    await user.type(name, 'strong{Enter}')
    const percent = screen.getByLabelText('Percent of strong')
    await user.clear(percent)
    await user.type(percent, '94{Enter}')
    screen.getByRole('slider', { name: 'strong stands for' }).focus()
    await user.keyboard('{ArrowLeft}')
    await waitFor(() => expect(scale()[2]).toEqual({ label: 'strong', percent: 93, threshold: 62.5 }))
    await user.click(screen.getByRole('button', { name: /Read back halfway/ }))
    await waitFor(() => expect(scale()[2]!.threshold).toBe(76.5))
    await user.click(screen.getByLabelText('Remove sound'))
    await waitFor(() => expect(scale().map((l) => l.label)).toEqual(['not yet', 'strong']))
  })

  test('fractions beside percents are said, and mended with a press', async () => {
    const { user, scale } = making([
      { label: 'low', percent: 0.3, threshold: 0 },
      { label: 'high', percent: 0.895, threshold: 0.6 },
    ])
    await user.click(screen.getAllByRole('button', { name: 'mend it' })[0]!)
    await waitFor(() => expect(scale().map((l) => l.percent)).toEqual([30, 89.5]))
  })

  test('one begins from points 0 to n, words, done or not, or this course’s grades; undo brings back what was', async () => {
    const { user, scale } = making()
    const begin = (name: string) => user.click(screen.getByRole('button', { name }))
    const top = screen.getByLabelText('Points up to')
    await user.clear(top)
    await user.type(top, '4{Enter}')
    await begin('points 0 to')
    await waitFor(() =>
      expect(scale().map((l) => [l.label, l.percent])).toEqual([
        ['0', 0],
        ['1', 25],
        ['2', 50],
        ['3', 75],
        ['4', 100],
      ]),
    )
    await begin('done or not done')
    await waitFor(() => expect(scale().map((l) => l.label)).toEqual(['not done', 'done']))
    await begin('this course’s grades')
    await waitFor(() => expect(scale().map((l) => l.label)).toEqual(['Refer', 'Pass', 'Merit']))
    await user.click(screen.getByRole('button', { name: /^Undo: begin from the grades/ }))
    await waitFor(() => expect(scale().map((l) => l.label)).toEqual(['not done', 'done']))
  })
})

test('a mark scheme: parts with maxima of their own; notes for markers stand apart from words for students', async () => {
  const lib = library()
  const of = { ...head, title: 'Paper', criteria: [{ id: 'x', title: 'Sums', max: 10, words: '' }], uses: [use(40)] }
  const { user } = inPage(<SchemeMaker courseId="c" scheme={of} onMoved={lib.moved} />, SIGNED_IN)
  expect(screen.getByText(/10 points, scaled to 40/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Another part' }))
  await user.type(screen.getByLabelText('Words of Part 2'), 'a drawing to scale')
  await user.type(screen.getByLabelText('Notes of Part 2'), 'half for the frame')
  const points = screen.getByLabelText('Points of Part 2')
  await user.clear(points)
  await user.type(points, '2.5{Enter}')
  const part = { id: 'c2', title: 'Part 2', max: 2.5, words: 'a drawing to scale', notes: 'half for the frame' }
  await waitFor(() => expect(lib.latest<SchemeBody>().criteria[1]).toEqual(part))
  await user.click(screen.getByLabelText('Remove Sums'))
  await waitFor(() => expect(lib.latest<SchemeBody>().criteria).toEqual([part]))
})

test('an outcome: statement, levels, the one that counts as reached and stays so when one below goes, and the rule', async () => {
  const lib = library()
  const levels = ['not yet', 'with help', 'alone'].map((label) => ({ label, words: '' }))
  const of = { ...head, title: 'Reads relief', statement: '', levels, reached: 3, rule: { kind: 'latest' as const } }
  const { user } = inPage(<OutcomeMaker courseId="c" outcome={of} onMoved={lib.moved} />, SIGNED_IN)
  const outcome = () => lib.latest<OutcomeBody>()
  await user.type(screen.getByLabelText('What students should be able to do'), 'Reads relief from contours.')
  await user.click(screen.getByLabelText('Remove with help'))
  await waitFor(() => expect([outcome().statement, outcome().reached]).toEqual(['Reads relief from contours.', 2]))
  await user.click(screen.getByRole('button', { name: 'Another level on top' }))
  await user.selectOptions(screen.getByLabelText(/Where a student stands/), 'times')
  const of3 = screen.getByLabelText('Of the last so many results')
  await user.clear(of3)
  await user.keyboard('{Enter}')
  await waitFor(() => expect(outcome().rule).toEqual({ kind: 'times', times: 2, of: null }))
  await user.click(screen.getByLabelText('level 3 counts as reached'))
  await waitFor(() => expect(outcome().reached).toBe(3))
})
