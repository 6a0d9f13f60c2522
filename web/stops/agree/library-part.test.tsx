import { fireEvent, screen, waitFor, within } from '@testing-library/react'
import { routes, type CourseHead, type Library, type Standard } from '#contract'
import { assessment, courseHead, planOf, USE } from '../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../testing/in-page'
import { entry, type EntryHead as Head } from '../../testing/library-entry'
import { LibraryPart } from './LibraryPart'

jest.mock('../../course/course', () => ({ useCourseSoFar: () => ({ course: null }) }))

const criteria = [
  {
    id: 'a',
    title: 'Aim',
    ranges: false,
    penalty: false,
    levels: [
      { points: 0, words: 'none' },
      { points: 8, words: 'argued' },
    ],
  },
]
const use = (more: Partial<Head['uses'][number]> = {}): Head['uses'][number] => ({
  courseId: 'c',
  course: 'CFS 9',
  assessmentId: 'essay',
  assessment: 'Essay',
  outOf: 20,
  standardId: 'sketch',
  version: 1,
  behind: 0,
  hidesPoints: false,
  hidesWords: false,
  ...more,
})
const PLAN = planOf({
  assessments: [assessment('essay', { marking: 'rubric', standardId: 'sketch', version: 4 }), assessment('talk', { version: 4 })],
})
const GRADE_SETS = [
  {
    id: 'g1',
    name: 'Three words',
    by: 'Ines',
    own: true,
    grades: [
      { grade: 'Strong', from: 72.5 },
      { grade: 'Not yet', from: 0 },
    ],
  },
  {
    id: 'g2',
    name: 'Two',
    by: 'Rune Daal',
    own: false,
    grades: [
      { grade: 'Pass', from: 50 },
      { grade: 'Fail', from: 0 },
    ],
  },
]
const EMPTY_LIBRARY: Library = { rubrics: [], schemes: [], scales: [], outcomes: [] }

function library(has: Partial<Library>, { role = 'lead', me = 'ines' }: { role?: CourseHead['role']; me?: string } = {}) {
  const server = serverAnswers([
    [routes.library, () => ({ ...EMPTY_LIBRARY, ...has })],
    [routes.courses, () => [courseHead(role)]],
    [routes.gradeSets, () => GRADE_SETS],
    [routes.dropGradeSet, () => GRADE_SETS.slice(1)],
    [routes.plan, () => PLAN],
    [routes.editAssessment, () => PLAN.assessments[0]],
    [routes.attachStandard, () => PLAN.assessments[0]],
    [routes.addStandard, () => ({ id: 'made' })],
    [routes.copyStandard, () => ({ id: 'copied' })],
    [routes.setStandardState, () => null],
    [routes.suggest, () => ({ id: 'g' })],
    [routes.answerSuggestion, () => ({ id: 'sketch', revision: 2 })],
    [routes.readLibraryFile, () => new Refuses(422, 'This is no table: choose a DOCX, XLSX or CSV file.')],
  ])
  const page = inPage(<LibraryPart courseId="c" nav={null} />, { known: [[['me'], { id: me, name: me, look: null }]] })
  const bodies = (path: RegExp) => server.sent.filter((s) => path.test(s.address)).map((s) => s.body as Record<string, unknown>)
  return { ...page, ...server, bodies, ready: () => screen.findByRole('heading', { name: 'The department’s library' }) }
}
const listed = () =>
  within(screen.getByRole('list', { name: 'The library' }))
    .queryAllByRole('button')
    .map((b) => b.textContent)

test('it is searched by title, words and owner, and narrowed by kind; retired ones only when asked for', async () => {
  const { user, ready } = library({
    rubrics: [
      { ...entry('sketch', 'Sketch map'), criteria },
      { ...entry('old', 'Old sketch', { state: 'retired' }), criteria: [] },
    ],
    scales: [{ ...entry('talk', 'Spoken', { owner: 'Rune Daal' }), labels: [{ label: 'commanding', percent: 90, threshold: 85 }] }],
  })
  await ready()
  expect(listed()).toEqual(['Sketch map', 'Spoken'])
  const find = screen.getByLabelText('Find in the library')
  for (const [words, found] of [
    ['argued', ['Sketch map']],
    ['rune', ['Spoken']],
    ['commanding', ['Spoken']],
    ['nothing like it', []],
  ] as const) {
    await user.clear(find)
    await user.type(find, words)
    expect(listed()).toEqual(found)
  }
  await user.clear(find)
  await user.selectOptions(screen.getByLabelText('Kind'), 'rubric')
  await user.click(screen.getByLabelText('retired ones too'))
  expect(listed()).toEqual(['Old sketch', 'Sketch map'])
})

test('the department’s sets of grades stand there too: found by name or grade, one’s own dropped; markers are not asked about them', async () => {
  const { user, ready, sent } = library({})
  await ready()
  expect(await screen.findByText('Strong 72.5 · Not yet 0')).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Keep Two no longer' })).toBeNull()
  await user.type(screen.getByLabelText('Find in the library'), 'fail')
  expect(screen.queryByText('Three words')).toBeNull()
  expect(screen.getByText('Pass 50 · Fail 0')).toBeTruthy()
  await user.clear(screen.getByLabelText('Find in the library'))
  await user.click(screen.getByRole('button', { name: 'Keep Three words no longer' }))
  await waitFor(() => expect(screen.queryByText('Three words')).toBeNull())
  expect(sent.map((s) => s.method)).toEqual(['DELETE'])
})

test('who marks sees no sets of grades', async () => {
  const { ready } = library({}, { role: 'marker' })
  await ready()
  expect(screen.queryByRole('heading', { name: 'Sets of grades' })).toBeNull()
})

test('of somebody else’s one takes a copy or suggests a change, with a copy that has it; nothing of it can be typed over', async () => {
  const { user, ready, bodies, sent } = library({
    rubrics: [
      { ...entry('sketch', 'Sketch map'), criteria },
      { ...entry('mine', 'Sketch map 2', { ownerId: 'ines', owner: 'Ines', copiedFrom: 'sketch' }), criteria },
    ],
  })
  await ready()
  expect(screen.queryByLabelText('Title of the rubric')).toBeNull()
  const suggest = screen.getByRole<HTMLButtonElement>('button', { name: 'Suggest it' })
  expect(suggest.disabled).toBe(true)
  await user.type(screen.getByLabelText('What should change'), 'A level between.')
  await user.click(suggest)
  await waitFor(() => expect(bodies(/suggest/)).toEqual([{ words: 'A level between.', copyId: 'mine' }]))
  await user.click(screen.getByRole('button', { name: 'Take a copy' }))
  await waitFor(() => expect(sent.at(-1)!.address).toMatch(/sketch\/copies$/))
})

test('the owner answers what others suggest', async () => {
  const suggestion = {
    id: 'g',
    by: 'Milo Quill',
    at: '2026-11-12T10:00:00Z',
    words: 'A level at 6.',
    copyId: null,
    answer: null,
    reply: '',
  }
  const { user, ready, bodies } = library({
    rubrics: [{ ...entry('sketch', 'Sketch map', { ownerId: 'ines', suggestions: [suggestion] }), criteria }],
  })
  await ready()
  expect(screen.getByText('suggested ·')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'I have taken it over' }))
  await waitFor(() => expect(bodies(/suggestions/)).toEqual([{ answer: 'taken over', reply: '' }]))
})

test('a draft is made ready, retired and brought back; undo goes a step back', async () => {
  const { user, ready, bodies } = library({
    rubrics: [{ ...entry('sketch', 'Sketch map', { ownerId: 'ines', state: 'draft' }), criteria }],
  })
  await ready()
  expect(screen.getByText('draft ·')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Make it ready' }))
  await waitFor(() => expect(bodies(/state$/)).toEqual([{ state: 'ready' }]))
  await user.click(await screen.findByRole('button', { name: 'Undo: Sketch map ready' }))
  await waitFor(() => expect(bodies(/state$/).at(-1)).toEqual({ state: 'draft' }))
})

test('it is put to use in one step, and undone', async () => {
  const { user, ready, bodies } = library({ rubrics: [{ ...entry('sketch', 'Sketch map', { uses: [use()] }), criteria }] })
  await ready()
  await user.selectOptions(await screen.findByLabelText('Assessment to use it in'), 'Talk')
  await user.click(screen.getByRole('button', { name: 'Use it' }))
  await waitFor(() => expect(bodies(/assessments\/talk/)[0]).toMatchObject({ standardId: 'sketch', version: 4 }))
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(bodies(/assessments\/talk/).at(-1)).toMatchObject({ standardId: null }))
})

test('how an assessment uses it: what a point counts, and boxes that do not take each other back', async () => {
  const { user, ready, bodies } = library({ rubrics: [{ ...entry('sketch', 'Sketch map', { uses: [use()] }), criteria }] })
  await ready()
  await user.click(await screen.findByRole('button', { name: 'Essay' }))
  expect(screen.getByText('8 points make 20: a point counts 2.5.')).toBeTruthy()
  await user.click(screen.getByLabelText('points hidden while marking'))
  await waitFor(() => expect(bodies(/assessments\/essay/)).toEqual([{ version: 4, use: { ...USE, hidePoints: true } }]))
  await user.click(screen.getByLabelText('any point inside a range'))
  await waitFor(() => expect(bodies(/assessments\/essay/).at(-1)).toEqual({ version: 4, use: { ...USE, ranges: false } }))
})

test('where a newer version waits it is put to use from here; readings by the earlier one are counted', async () => {
  const uses = [use({ standardId: 'first' }), use({ assessmentId: 'talk', assessment: 'Talk', version: 2, behind: 3 })]
  const { user, ready, bodies } = library({
    rubrics: [{ ...entry('sketch', 'Sketch map', { version: 2, uses }), criteria }],
  })
  await ready()
  expect(await screen.findByText('3 readings by an earlier version')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /version 2 from now on/ }))
  await waitFor(() => expect(bodies(/assessments\/essay/)[0]).toMatchObject({ standardId: 'sketch' }))
})

test('before one edits it, it is said which other courses that changes', async () => {
  const uses = [use(), use({ courseId: 'd', course: 'CFS 7', assessmentId: 'sketch', assessment: 'Sketch' })]
  const shared = { rubrics: [{ ...entry('sketch', 'Sketch map', { uses }), criteria }] }
  const says = /^Other courses use this version too, and change with each edit: Sketch \(CFS 7\)\.$/
  const { ready } = library(shared, { me: 'ola' })
  await ready()
  expect(await screen.findByText(says)).toBeTruthy()
})

test('a marker reads it; what is hidden while they mark by it is not in the page, nor to be taken out', async () => {
  const { ready } = library(
    {
      rubrics: [
        { ...entry('sketch', 'Sketch map', { uses: [use({ hidesPoints: true })], hides: { points: true, words: false } }), criteria },
      ],
    },
    { role: 'marker' },
  )
  await ready()
  expect(await screen.findByText('Points are hidden while it is marked by.')).toBeTruthy()
  expect(screen.getByText('argued')).toBeTruthy()
  expect(screen.getByRole('main').textContent).not.toContain('8')
  expect(screen.queryByRole('button', { name: /Take it out|As students see it|Take a copy|From a table/ })).toBeNull()
})

test('V shows it as students see it, without what is for markers', async () => {
  const scheme = {
    ...entry('paper', 'Paper', { ownerId: 'ines' }),
    criteria: [{ id: 'x', title: 'Sums', max: 10, words: 'shown', notes: 'secret' }],
  }
  const { user, ready } = library({ schemes: [scheme] })
  await ready()
  expect(screen.getByLabelText<HTMLTextAreaElement>('Notes of Sums').value).toBe('secret')
  await user.keyboard('v')
  expect(screen.getByRole('main').textContent).toMatch(/Sums.*shown.*10 points/)
  expect(document.body.innerHTML).not.toContain('secret')
})

test('an empty library says what will stand there, and a new one is made from here', async () => {
  const { user, ready, bodies } = library({})
  await ready()
  expect(screen.getByText(/The library is empty/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Make a new…' }))
  await user.click(within(document.querySelector<HTMLElement>('.dropdown-menu.show')!).getByText('scale'))
  await waitFor(() => expect(bodies(/library$/)[0]).toMatchObject({ standard: { kind: 'scale', title: 'New scale' } }))
})

describe('a rubric from a table', () => {
  const opened = async () => {
    const lib = library({})
    await lib.ready()
    await lib.user.keyboard('t')
    const dialog = within(screen.getByRole('dialog'))
    const paste = (types: Record<string, string>) =>
      fireEvent.paste(dialog.getByLabelText(/^Paste a table/), { clipboardData: { getData: (type: string) => types[type] ?? '' } })
    return { ...lib, dialog, paste, made: () => (lib.bodies(/library$/)[0] as { standard: Standard } | undefined)?.standard }
  }
  const HTML = `<p>Marked by this:</p><table><tr><th></th><th>Poor (1)</th><th>Good (3)</th></tr>
    <tr><td>Aim<img src=x onerror="globalThis.ran = true"></td><td>vague</td><td>clear</td></tr>
    <tr><td>Line</td><td colspan=2>steady<script>globalThis.ran = true</script></td></tr></table>`

  test('pasted from a document it becomes rulers, with its points; nothing in it runs', async () => {
    const { user, dialog, paste, made } = await opened()
    paste({ 'text/html': HTML })
    expect(dialog.getByRole('status').textContent).toMatch(/2 criteria, 6 points/)
    expect(dialog.getByRole('img', { name: 'Aim: 1 Poor: vague; 3 Good: clear' })).toBeTruthy()
    await user.clear(dialog.getByLabelText('Title'))
    await user.type(dialog.getByLabelText('Title'), 'Walks')
    await user.click(dialog.getByRole('button', { name: 'Make the rubric' }))
    await waitFor(() => expect(made()).toMatchObject({ kind: 'rubric', title: 'Walks' }))
    expect((globalThis as { ran?: boolean }).ran).toBeUndefined()
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  })

  test('one says what each row and column is, and where the points are', async () => {
    const { user, dialog, paste } = await opened()
    paste({ 'text/plain': 'Walks\t\t\nAim\tvague\tclear\nnote\tfor\tus\nLine\tshaky\tsteady' })
    await user.selectOptions(dialog.getByLabelText('Row 1 is'), 'left out')
    await user.selectOptions(dialog.getByLabelText('Row 3 is'), 'left out')
    await user.selectOptions(dialog.getByLabelText('Points are'), 'nowhere: 0, 1, 2 …')
    // Nothing tells which end is the best, so it is asked and nothing can be made before.
    expect(screen.getByText(/say which level stands first/)).toBeTruthy()
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Make the rubric' }).disabled).toBe(true)
    await user.selectOptions(dialog.getByLabelText('First stands'), 'the best level')
    expect(dialog.getByRole('status').textContent).toMatch(/^2 criteria, 2 points/)
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Make the rubric' }).disabled).toBe(false)
    expect(dialog.getByRole('img', { name: /^Aim: .*1 vague/ })).toBeTruthy()
    await user.selectOptions(dialog.getByLabelText('Column 3 is'), 'left out')
    expect(dialog.getByRole('img', { name: 'Line: 0 shaky' })).toBeTruthy()
  })

  test('a table with its levels downwards is turned, which can be said otherwise; points on both sides of 0 are asked about', async () => {
    const { user, dialog, paste } = await opened()
    paste({ 'text/plain': '\tAim\tLine\nGood\tall\tsteady\nPoor\tnone\tshaky\nPoints\t3\t-1' })
    const turned = dialog.getByLabelText<HTMLSelectElement>('A criterion is')
    expect(turned.value).toBe('column')
    expect(dialog.getByRole('img', { name: /^Aim: / })).toBeTruthy()
    await user.selectOptions(turned, 'a row')
    expect(dialog.getByLabelText<HTMLSelectElement>('Row 4 is').value).toBe('points')
    expect(dialog.getByRole('status').textContent).toMatch(/“Good” has points above 0 and below it/)
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Make the rubric' }).disabled).toBe(true)
    await user.selectOptions(dialog.getByLabelText('Row 4 is'), 'left out')
    expect(dialog.queryByText(/above 0 and below it/)).toBeNull()
  })

  test('too many rows are said before anything is made', async () => {
    const { dialog, paste } = await opened()
    paste({ 'text/plain': Array.from({ length: 70 }, (_, i) => `Row ${i}\t1: low\t2: high`).join('\n') })
    expect(dialog.getByRole('status').textContent).toMatch(/70 rows are too many for one rubric, which takes 60/)
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Make the rubric' }).disabled).toBe(true)
  })

  test('without a table, or with a file that is none, it says what to do', async () => {
    const { user, dialog, paste } = await opened()
    paste({ 'text/plain': '' })
    expect(dialog.getByRole('alert').textContent).toMatch(/There is no table in it/)
    await user.upload(dialog.getByLabelText(/^or a file/), new File(['MZ'], 'walks.csv', { type: 'text/csv' }))
    await waitFor(() => expect(dialog.getByRole('alert').textContent).toMatch(/This is no table/))
    const large = Object.defineProperty(new File(['x'], 'large.docx'), 'size', { value: 20_000_000 })
    await user.upload(dialog.getByLabelText(/^or a file/), large)
    await waitFor(() => expect(dialog.getByRole('alert').textContent).toMatch(/large.docx is over 12 MB/))
  })

  test('levels without a score are asked about before anything is made, and never 0 unasked', async () => {
    const { user, dialog } = await opened()
    const levels = [
      { points: 0, words: 'vague' },
      { points: 4, words: 'clear' },
    ]
    const { sent } = serverAnswers([
      [
        routes.readLibraryFile,
        () => ({
          tables: [],
          others: [],
          outcomes: [],
          notes: [],
          rubrics: [
            {
              title: 'Walks',
              source: 'w',
              known: null,
              unscored: [{ criterion: 0, level: 0 }],
              criteria: [{ ...criteria[0]!, title: 'Aim', levels }],
            },
          ],
        }),
      ],
      [routes.addStandard, () => ({ id: 'made' })],
      [routes.library, () => EMPTY_LIBRARY],
    ])
    await user.upload(dialog.getByLabelText(/^or a file/), new File(['{}'], 'export.json', { type: 'application/json' }))
    const points = await dialog.findByLabelText('Points of “vague” in Aim')
    const make = () => dialog.getByRole<HTMLButtonElement>('button', { name: 'Make the rubric' })
    expect(make().disabled).toBe(true)
    await user.type(points, '6{Enter}')
    await user.click(make())
    await waitFor(() => expect(sent.find((s) => /library$/.test(s.address) && s.body)?.body).toMatchObject({ standard: { body: { criteria: [{ levels: [{ points: 4 }, { points: 6, words: 'vague' }] }] } } })) // prettier-ignore
  })

  test('outcomes alone are listed, with those that are here already, before they are made', async () => {
    const { user, dialog } = await opened()
    const outcome = (id: string, title: string, known: string | null) => ({
      id,
      title,
      known,
      statement: `${title} in the field.`,
      levels: [{ label: 'not yet', words: '' }],
      reached: 1,
      rule: { kind: 'latest' as const },
      group: ['Fieldwork', 'Survey'],
    })
    const { sent } = serverAnswers([
      [
        routes.readLibraryFile,
        () => ({
          tables: [],
          others: [],
          rubrics: [],
          notes: [],
          outcomes: [outcome('o1', 'Closes a loop', null), outcome('o2', 'Levels', 'here')],
        }),
      ],
      [routes.addStandard, () => ({ id: 'made' })],
      [routes.library, () => EMPTY_LIBRARY],
    ])
    await user.upload(dialog.getByLabelText(/^or a file/), new File(['{}'], 'export.json', { type: 'application/json' }))
    const rows = within(await dialog.findByRole('region', { name: 'Outcomes in the file' })).getAllByRole('row')
    expect(rows.slice(1).map((r) => r.textContent)).toEqual([
      'Closes a loopCloses a loop in the field.Fieldwork › Surveynot yetnew',
      'LevelsLevels in the field.Fieldwork › Surveynot yetalready',
    ])
    await user.click(dialog.getByRole('button', { name: 'Make 1 outcome' }))
    await waitFor(() =>
      expect(sent.flatMap((s) => (s.body as { standard?: Standard } | undefined)?.standard?.title ?? [])).toEqual(['Closes a loop']),
    )
  })

  test('a file’s own title is kept; where it has several one chooses, and the title follows', async () => {
    const { user, dialog, made } = await opened()
    serverAnswers([
      [
        routes.readLibraryFile,
        () => ({
          tables: [],
          others: [],
          outcomes: [],
          notes: ['Links to outcomes are not in this file.'],
          rubrics: [
            { title: 'Walks', source: 'w', known: { id: 'walks', title: 'Walks in the field', same: true }, criteria },
            { title: 'Maps', source: 'm', known: null, criteria },
          ],
        }),
      ],
      [routes.addStandard, () => ({ id: 'made' })],
      [routes.library, () => EMPTY_LIBRARY],
    ])
    await user.upload(dialog.getByLabelText(/^or a file/), new File(['{}'], 'export.json', { type: 'application/json' }))
    expect((await dialog.findByLabelText<HTMLInputElement>('Title')).value).toBe('Walks')
    expect(dialog.getByText(/in the library already, as “Walks in the field”, and nothing in it differs/)).toBeTruthy()
    expect(dialog.getByText('Links to outcomes are not in this file.')).toBeTruthy()
    await user.selectOptions(dialog.getByLabelText('Which of 2'), 'Maps')
    expect(dialog.queryByText(/in the library already/)).toBeNull()
    expect(dialog.getByLabelText<HTMLInputElement>('Title').value).toBe('Maps')
    expect(made()).toBeUndefined()
  })

  test.each(['words.json', 'words.zip'])('a scale of %s is shown, and made as a scale', async (name) => {
    const { user, dialog } = await opened()
    const standard = { kind: 'scale' as const, title: 'Five words', body: { labels: [{ label: 'sound', percent: 62.5, threshold: 50 }] } }
    const { sent } = serverAnswers([
      [
        routes.readLibraryFile,
        () => ({ tables: [], rubrics: [], outcomes: [], notes: [], others: [{ standard, source: 'x', known: null }] }),
      ],
      [routes.addStandard, () => ({ id: 'made' })],
      [routes.library, () => EMPTY_LIBRARY],
    ])
    await user.upload(dialog.getByLabelText(/^or a file/), new File(['{}'], name))
    expect((await dialog.findByRole('row', { name: /^sound/ })).textContent).toBe('sound62.5%50%')
    await user.click(dialog.getByRole('button', { name: 'Make the scale' }))
    await waitFor(() => expect(sent.at(-1)!.body).toEqual({ standard, source: 'x' }))
  })
})
