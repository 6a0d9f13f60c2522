import { screen, waitFor, within } from '@testing-library/react'
import { routes, type InstalledCourse, type TriedPackage } from '#contract'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { CoursesPart } from './CoursesPart'

const TRIED: TriedPackage & { packageId: string } = {
  packageId: '7d0f2f0e-8a43-4c31-a3f5-0a4de5ef9a11',
  course: 'HYD 1 Sluices, autumn 2026',
  counts: { sections: 2, students: 40, assessments: 3, scripts: 120, readings: 80, decisions: 1, issues: 0 },
  standards: { added: 1, known: 1 },
  people: [
    { name: 'Mo Lund', signIn: 'mo', here: 'Mo Lund', role: 'marker' },
    { name: 'Ny Asplund', signIn: 'ny', here: 'N. Other', role: 'marker' },
    { name: 'Pia Brook', signIn: 'pia', here: null, role: 'lead' },
    { name: 'A Student', signIn: 'stu', here: null, role: 'student' },
  ],
  goesOn: false,
}

function courses(answer: () => unknown = () => TRIED) {
  let all: Partial<InstalledCourse>[] = []
  const server = serverAnswers([
    [routes.installedCourses, () => all],
    [routes.courses, () => []],
    [routes.people, () => []],
    [routes.installedStandIns, () => ({ now: [], list: [] })],
    [routes.tryPackage, answer],
    [routes.dropPackage, () => null],
    [
      routes.bringInPackage,
      () => {
        all = [
          {
            id: 'c',
            code: 'HYD 1',
            title: 'Sluices',
            term: 'autumn 2026',
            leads: [],
            firstDay: '2026-09-07',
            lastDay: '2026-12-18',
            sections: 2,
            students: 40,
            awayAt: null,
            namelessAt: null,
            namelessFrom: '2028-01-01',
            confirmedIssue: null,
            issueInForce: null,
            bare: false,
          },
        ]
        return { courseId: 'c' }
      },
    ],
  ])
  return { server, ...inPage(<CoursesPart />, { address: '/installation/courses' }) }
}
const file = new File(['PK'], 'course.zip', { type: 'application/zip' })

test('a course from elsewhere is tried: what is in it, who its people are here; then brought in and shown', async () => {
  const { user, server } = courses()
  await user.click(await screen.findByRole('button', { name: 'Bring in a course…' }))
  const dialog = within(screen.getByRole('dialog'))
  expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Bring it in' }).disabled).toBe(true)
  await user.upload(dialog.getByLabelText(/^The Data Package/), file)
  expect(await dialog.findByText(/2 sections · 40 students · 3 assessments · 120 scripts/)).toBeTruthy()
  const rows = within(dialog.getByRole('table', { name: 'Its people' }))
    .getAllByRole('row')
    .slice(1)
  expect(rows.map((r) => r.lastElementChild!.textContent)).toEqual(['the same', 'is N. Other', 'added, not invited yet'])
  expect(dialog.getByText(/None of its leads is here yet/)).toBeTruthy()
  await user.click(dialog.getByRole('button', { name: 'Bring it in' }))
  expect(await screen.findByRole('button', { name: 'HYD 1 Sluices', pressed: true })).toBeTruthy()
  // It is the course's now, and not to be dropped.
  expect(server.sent.map((s) => s.method)).toEqual(['POST', 'POST'])
})

test('what cannot be brought in says where and why; what was tried and left is dropped', async () => {
  let good = false
  const { user, server } = courses(() => (good ? TRIED : new Refuses(422, 'data/script.csv, row 7: “many” cannot be days_late.')))
  await user.click(await screen.findByRole('button', { name: 'Bring in a course…' }))
  const dialog = within(screen.getByRole('dialog'))
  await user.upload(dialog.getByLabelText(/^The Data Package/), file)
  expect((await dialog.findByRole('alert')).textContent).toBe('data/script.csv, row 7: “many” cannot be days_late.')
  good = true
  await user.upload(dialog.getByLabelText(/^The Data Package/), file)
  await dialog.findByRole('table', { name: 'Its people' })
  expect(dialog.queryByRole('alert')).toBeNull()
  await user.click(dialog.getByRole('button', { name: 'Cancel' }))
  await waitFor(() =>
    expect(server.sent.at(-1)).toMatchObject({ method: 'DELETE', address: `/api/installation/packages/${TRIED.packageId}` }),
  )
})
