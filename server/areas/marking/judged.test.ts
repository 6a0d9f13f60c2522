import { rubricMark, type Rubric } from '#core/scales'
import { unpackJudged, type JudgedInColumns } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const MAP = `${COURSE}-map`
const { server, lead } = demoServer()

const judged = async (who: Client, assessmentId: string) =>
  unpackJudged((await who('get', api(`/assessments/${assessmentId}/judged`)).expect(200)).body as JudgedInColumns)

test('every reading handed in is there with its points, from which its mark follows', async () => {
  const { criteria, students, markers, student, marker, mark, points } = await judged(lead, MAP)
  const rows = server.db
    .prepare(
      `SELECT s.student_id AS student, r.marker_id AS marker, r.mark FROM reading r JOIN script s ON s.id = r.script_id
       WHERE s.assessment_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`,
    )
    .all(MAP) as { student: string; marker: string; mark: number }[]
  expect(Array.from(mark, (m, i) => ({ student: students[student[i]!], marker: markers[marker[i]!], mark: m }))).toEqual(rows)
  const body = server.db
    .prepare('SELECT t.body FROM assessment a JOIN standard t ON t.id = a.standard_id WHERE a.id = ?')
    .pluck()
    .get(MAP) as string
  const picksOf = (i: number) => Object.fromEntries(criteria.map((c, k) => [c.id, points[k]![i]!]))
  for (let i = 0; i < rows.length; i += 7) expect(rubricMark(JSON.parse(body) as Rubric, picksOf(i), 100)).toBe(mark[i])
})

test('an assessment that is marked by no criteria has readings and no points; one that is not there is said', async () => {
  const { criteria, points, mark } = await judged(lead, `${COURSE}-paper-1`)
  expect([criteria, points, mark.length > 0]).toEqual([[], [], true])
  await lead('get', api('/assessments/none/judged')).expect(404)
})

test('the external sees it as the lead does, a marker not at all', async () => {
  expect(await judged(await server.as('tamsin.oyelaran.holt'), MAP)).toEqual(await judged(lead, MAP))
  await (await server.as('tadesse.abara'))('get', api(`/assessments/${MAP}/judged`)).expect(403)
})
