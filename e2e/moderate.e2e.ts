import { readFile } from 'node:fs/promises'
import { comeIn, COURSE, expect, test } from './level-table'
import { adopt } from './moderating'

test('the generous marker is found, with their criteria, and five of their scripts are read again', async ({ lead: page }) => {
  await page.goto(`${COURSE}/compare`)
  await expect(page.getByRole('heading', { name: 'Are the sections on one level?' })).toBeVisible()

  await test.step('sections given their other work: the strong one is strong elsewhere', async () => {
    await page.keyboard.press('g')
    const sextant = page.getByRole('row', { name: /^Sextant/ })
    await expect(sextant.getByText('higher, and its students do better elsewhere: strong students')).toBeVisible()
    await expect(sextant.getByRole('img', { name: /^Sextant, given their other work, is level/ })).toBeVisible()
  })

  await test.step('markers: who leans, who is erratic, who stands apart', async () => {
    await page.keyboard.press('r')
    await expect(page.getByRole('heading', { name: 'Do the markers hold one standard?' })).toBeVisible()
    const first = page.getByRole('row').nth(1)
    await expect(first.getByRole('img', { name: /^Lea Ostrand leans: 4\.\d marks generous/ })).toBeVisible()
    await expect(first.getByRole('button', { name: /^Lea Ostrand on Purpose and reader: \+0\.\d of 8/ })).toBeVisible()
    await expect(page.getByRole('row', { name: /^Anselm Duvray/ })).toContainText('erratic')
    await expect(page.getByText(/2 groups of markers share no script/)).toBeVisible()
    await first.click()
    await expect(page.getByRole('heading', { name: /^Lea Ostrand/ })).toBeVisible()
  })

  await test.step('the table and the web go out as files', async () => {
    const takeOut = async (words: string) => {
      await page.getByRole('button', { name: 'Take it out' }).click()
      const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: words }).click()])
      return { name: file.suggestedFilename(), content: await readFile(await file.path()) }
    }
    const csv = await takeOut('Table as CSV')
    expect(csv.name).toBe('Map-project-by-marker.csv')
    expect(csv.content.toString()).toMatch(
      /^\uFEFFmarker,read,shared,lean,from,to,own spread,own spread from,own spread to,group,lean: Purpose and reader/,
    )
    expect(csv.content.toString()).toMatch(/\r\nLea Ostrand,51,51,4\.\d+,/)
    expect((await takeOut('Table as XLSX')).content.subarray(0, 2).toString()).toBe('PK')
    const svg = (await takeOut('Chart as SVG')).content.toString()
    expect(svg).toMatch(/^<svg [^>]*xmlns="http:\/\/www\.w3\.org\/2000\/svg"/)
    expect(svg).toContain('Map project: the web of markers')
    expect(svg).not.toMatch(/var\(--/)
    expect((await takeOut('Chart as PNG')).content.subarray(1, 4).toString()).toBe('PNG')
  })

  await test.step('five of their scripts are read again', async () => {
    await page.getByRole('button', { name: 'Have 5 scripts read again' }).click()
    await page.getByRole('dialog').getByRole('button', { name: /^Ask/ }).click()
    await expect(page.getByText('5 readings asked for.')).toBeVisible()
  })

  await test.step('they stand as waiting where they are settled', async () => {
    await page.goto(`${COURSE}/reconcile`)
    await expect(page.getByRole('heading', { name: '38 scripts to settle' })).toBeVisible()
    const { asked } = await page.evaluate(async (address) => {
      const all = (await (await fetch(address)).json()) as { state: string; because: string }[]
      return { asked: all.filter((a) => a.state === 'waiting' && a.because.startsWith('Lea Ostrand')).length }
    }, `/api${COURSE}/further-readings`)
    expect(asked).toBe(5)
  })
})

test('by keyboard alone: nine scripts settled by a key each, adopted, and one opened again', async ({ lead: page }) => {
  await page.goto(`${COURSE}/compare`)
  await expect(page.getByRole('heading', { name: 'Are the sections on one level?' })).toBeVisible()
  const keys = page.keyboard
  await keys.press('Alt+5')
  await expect(page.getByRole('heading', { name: '38 scripts to settle' })).toBeVisible()
  await expect(page.getByRole('button', { name: /^V levelled/ })).toBeVisible()
  for (const key of ['v', 'm', 'm', 'h', 'l', 'd', '1', '2', 'm']) await keys.press(key)
  await expect(page.getByText('9 tried')).toBeVisible()
  await adopt(page, 'Read again at the board')
  await expect(page.getByRole('heading', { name: '29 scripts to settle' })).toBeVisible()
  await expect(page.getByText('0 over tolerance, 29 within')).toBeVisible()

  // The settled ones stand after those that are open, the widest spread first.
  for (let i = 0; i < 29; i++) await keys.press('ArrowDown')
  const closeUp = page.getByRole('complementary')
  await expect(closeUp.getByRole('button', { name: /^Open it again/ })).toBeVisible()
  await expect(closeUp.getByText(/Ines Valdry/)).toBeVisible()
  await expect(closeUp.getByText(/Read again at the board/)).toBeVisible()
  await keys.press('Delete')
  await expect(page.getByText('1 tried')).toBeVisible()
  await adopt(page, 'The second reader withdrew')
  await expect(page.getByRole('heading', { name: '30 scripts to settle' })).toBeVisible()
  await expect(page.getByText('open again').first()).toBeVisible()
})

test('where to look next: as many readings as there is time for, each with why, come to desks', async ({ lead: page, browser, served }) => {
  await page.goto(`${COURSE}/reconcile?part=look-next`)
  await expect(page.getByRole('heading', { name: 'Where to look next' })).toBeVisible()
  await page.getByLabel('I have time for').fill('3')
  await expect(page.getByRole('main').getByRole('row')).toHaveCount(4)
  await expect(page.getByRole('cell', { name: /(above|below) (Merit|Credit|Distinction|Pass)/ }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Ask for these 3' }).click()
  await page.getByRole('dialog').getByRole('button', { name: /^Ask/ }).click()
  await expect(page.getByText('3 asked for')).toBeVisible()
  const asked = await page.evaluate(
    async (address) => (await (await fetch(address)).json()) as { markerId: string; state: string }[],
    `/api${COURSE}/further-readings`,
  )
  expect(asked.map((a) => a.state)).toEqual(['waiting', 'waiting', 'waiting'])
  const name = await page.evaluate(
    async ([address, id]) => ((await (await fetch(address!)).json()) as { id: string; name: string }[]).find((p) => p.id === id)!.name,
    [`/api${COURSE}/people`, asked[0]!.markerId],
  )
  const desk = await (await browser.newContext({ baseURL: served.address })).newPage()
  await comeIn(desk, name)
  await desk.goto(`${COURSE}/mark/desk`)
  await expect(desk.getByRole('row', { name: /^Map project/ }).getByRole('link', { name: /^Go on/ })).toBeVisible()
  await desk.context().close()
})

test('between the two: what the readers agreed on is settled so, and one that waits is answered at the desk', async ({
  lead: page,
  browser,
  served,
}) => {
  await page.goto(`${COURSE}/reconcile`)
  await page.getByRole('button', { name: 'Settle it so' }).click()
  await expect(page.getByText('1 tried')).toBeVisible()
  await page.getByRole('row').filter({ hasText: 'trying' }).click()
  await expect(
    page
      .getByRole('complementary')
      .getByText(/half of what it is worth/)
      .first(),
  ).toBeVisible()

  interface Said {
    scriptId: string
    by: string
    agrees: boolean | null
  }
  const [said, readers] = await page.evaluate(async (course) => {
    const get = async (path: string) => (await (await fetch(`/api${course}${path}`)).json()) as unknown
    const waits = ((await get('/between')) as Said[]).find((b) => b.agrees === null)!
    const { readings } = (await get(`/scripts/${encodeURIComponent(waits.scriptId)}`)) as { readings: { marker: string }[] }
    return [waits, readings.map((r) => r.marker)] as const
  }, COURSE)
  const desk = await (await browser.newContext({ baseURL: served.address })).newPage()
  await comeIn(
    desk,
    readers.find((name) => name !== said.by)!,
  )
  const onDesk = await desk.evaluate(async (course) => {
    const pile = `/api${course}/assessments/cfs214-2026-map/pile`
    for (const { studentId } of (await (await fetch(pile)).json()) as { studentId: string }[]) {
      const script = (await (await fetch(`${pile}/${studentId}`)).json()) as {
        between: { proposal: { agrees: boolean | null } | null } | null
      }
      if (script.between?.proposal?.agrees === null) return studentId
    }
    return ''
  }, COURSE)
  await desk.goto(`${COURSE}/mark/desk?of=cfs214-2026-map&script=${onDesk}`)
  const between = desk.getByRole('region', { name: 'Between the two of you' })
  await expect(between.getByText('The legend was on the back of the sheet')).toBeVisible()
  await between.getByRole('button', { name: 'Agree', exact: true }).click()
  await expect(between.getByText(/agreed: it goes to the lead as that/)).toBeVisible()
  await desk.context().close()

  await page.reload()
  await expect(page.getByText('agreed between them').first()).toBeVisible()
})
