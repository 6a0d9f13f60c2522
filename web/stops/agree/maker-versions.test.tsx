import { screen, waitFor } from '@testing-library/react'
import { routes, type Library, type RubricBody, type Standard } from '#contract'
import { courseHead } from '../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../testing/in-page'
import { entry } from '../../testing/library-entry'
import { LibraryPart } from './LibraryPart'

jest.mock('../../course/course', () => ({ useCourseSoFar: () => ({ course: null }) }))

type Rubric = Library['rubrics'][number]
const level = (points: number) => ({ points, words: '' })
const rubric = (id: string, title: string, more: Partial<Rubric> = {}): Rubric => ({
  ...entry(id, title),
  criteria: [{ id: 'a', title: 'Aim', ranges: false, penalty: false, levels: [level(0), level(4)] }],
  ...more,
})

/** A library where readings use the first rubric: its first edit makes the next version. */
function library() {
  let rubrics = [rubric('r1', 'Field notebook', { read: true, revision: 3 }), rubric('other', 'Sketch')]
  const max = (id: string) => rubrics.find((r) => r.id === id)?.criteria[0]!.levels.at(-1)!.points
  const server = serverAnswers([
    [routes.library, (): Library => ({ rubrics, schemes: [], scales: [], outcomes: [] })],
    [routes.courses, () => [courseHead('lead')]],
    [routes.gradeSets, () => []],
    [
      routes.editStandard,
      ({ revision, standard }: { revision: number; standard: Standard }, address: string) => {
        const id = /library\/([^/]+)/.exec(address)![1]!
        const was = rubrics.find((r) => r.id === id)!
        if (was.revision !== revision) return new Refuses(409, `${was.title} was changed meanwhile.`, { revision: was.revision })
        const next = was.read ? 'r2' : id
        const now = {
          ...was,
          ...(standard.body as RubricBody),
          id: next,
          read: false,
          revision: was.read ? 1 : revision + 1,
          version: was.read ? 2 : 1,
        }
        rubrics = [...rubrics.filter((r) => r.id !== id), now].map((r) => ({ ...r }))
        return { id: next, revision: now.revision }
      },
    ],
  ])
  const page = inPage(<LibraryPart courseId="c" nav={null} />, { known: [[['me'], { id: 'ola', name: 'Ola Quist', look: null }]] })
  /** Somebody else, in another window. */
  const byOther = async (id: string, points: number) => {
    rubrics = rubrics.map((r) => (r.id === id ? { ...r, revision: r.revision + 1, criteria: rubric(id, '').criteria } : r))
    rubrics.find((r) => r.id === id)!.criteria[0]!.levels[1]!.points = points
    await page.queries.invalidateQueries({ queryKey: ['library'] })
  }
  return { ...page, ...server, max, byOther, shown: () => screen.getByLabelText<HTMLInputElement>('Maximum of Aim') }
}
const typed = async ({ user, shown }: ReturnType<typeof library>, text: string) => {
  await user.clear(shown())
  await user.type(shown(), `${text}{Enter}`)
}

/** Done again it is there again, and what is typed then goes on top of it, unasked. */
async function doneAgainAndOn(page: ReturnType<typeof library>): Promise<void> {
  await page.user.keyboard('{Control>}y{/Control}')
  await waitFor(() => expect(page.max('r2')).toBe(10))
  await waitFor(() => expect(page.shown().value).toBe('10'))
  await typed(page, '12')
  await waitFor(() => expect(page.max('r2')).toBe(12))
  expect(screen.queryByText(/changed in another window/)).toBeNull()
}

test('undone after it became the next version, it is undone on screen too, and can be done again and gone on from', async () => {
  const page = library()
  await screen.findByLabelText('Maximum of Aim')
  await typed(page, '10')
  await waitFor(() => expect(page.max('r2')).toBe(10))
  await page.user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(page.max('r2')).toBe(4))
  await waitFor(() => expect(page.shown().value).toBe('4'))
  await doneAgainAndOn(page)
})

test('undone while another entry is looked at, and after one came back to it', async () => {
  const page = library()
  await screen.findByLabelText('Maximum of Aim')
  const go = async (title: string) => page.user.click(await screen.findByRole('button', { name: new RegExp(`^${title}`) }))
  await typed(page, '10')
  await waitFor(() => expect(page.max('r2')).toBe(10))
  await go('Sketch')
  await waitFor(() => expect(page.shown().value).toBe('4'))
  await page.user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(page.max('r2')).toBe(4))
  await go('Field notebook')
  await waitFor(() => expect(page.shown().value).toBe('4'))
  await doneAgainAndOn(page)
})

test('what another window made of it is shown where nothing waits here; undoing one’s own then asks which of the two stands', async () => {
  const page = library()
  await screen.findByLabelText('Maximum of Aim')
  await typed(page, '10')
  await waitFor(() => expect(page.max('r2')).toBe(10))
  await page.byOther('r2', 7)
  await waitFor(() => expect(page.shown().value).toBe('7'))
  await page.user.keyboard('{Control>}z{/Control}')
  await screen.findByText(/changed in another window/)
  expect(page.max('r2')).toBe(7)
  await page.user.click(screen.getByRole('button', { name: /theirs|there/i }))
  await waitFor(() => expect(page.shown().value).toBe('7'))
  await typed(page, '9')
  await waitFor(() => expect(page.max('r2')).toBe(9))
})
