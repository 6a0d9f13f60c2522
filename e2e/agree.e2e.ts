import { comeIn, COURSE, expect, goTo, MARKER, test } from './level-table'

const PASTED =
  '<table><tr><th></th><th>Weak (1)</th><th>Fair (2)</th><th>Strong (4)</th></tr>' +
  '<tr><td>Argument<script>window.ran = true</script></td><td>asserted</td><td>supported in part</td><td>supported throughout</td></tr>' +
  '<tr><td>Sources</td><td>none named</td><td><img src=x onerror="window.ran = true">named</td><td>weighed 🗺️ مقارنة</td></tr></table>'

test('a rubric from a document’s table, mended, pulled, put to use in two courses, changed after marking has begun', async ({
  lead: page,
}) => {
  await goTo(page, 'Agree')
  await expect(page.getByRole('heading', { name: 'A map for a reader' })).toBeVisible()

  await test.step('pasted: a table becomes rulers, and nothing in it runs', async () => {
    await page.keyboard.press('t')
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Paste a table').focus()
    await page.evaluate((html) => {
      const clipboardData = new DataTransfer()
      clipboardData.setData('text/html', html)
      document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
    }, PASTED)
    await expect(dialog.getByRole('status')).toContainText('2 criteria, 8 points')
    await expect(
      dialog.getByRole('img', { name: 'Argument: 1 Weak: asserted; 2 Fair: supported in part; 4 Strong: supported throughout' }),
    ).toBeVisible()
    await dialog.getByLabel('Row 3 is').selectOption('left out')
    await expect(dialog.getByRole('status')).toContainText('1 criterion, 4 points')
    await dialog.getByLabel('Row 3 is').selectOption('criterion')
    await expect(dialog.getByRole('status')).toContainText('2 criteria, 8 points')
    await dialog.getByLabel('Title').fill('Essay')
    await dialog.getByRole('button', { name: 'Make the rubric' }).click()
    await expect(page.getByRole('heading', { name: 'Essay' })).toBeVisible()
    expect(await page.evaluate(() => 'ran' in window)).toBe(false)
    await expect(page.getByText('weighed 🗺️ مقارنة')).toBeVisible()
  })

  await test.step('made: findings mended, a stop pulled by key, a criterion resized and duplicated, all undone', async () => {
    await page.getByRole('button', { name: 'add a level at 0' }).first().click()
    await page.getByRole('button', { name: 'add a level at 0' }).click()
    await expect(page.getByRole('button', { name: 'add a level at 0' })).toHaveCount(0)
    const stop = page.getByRole('slider', { name: 'Level 3 of Argument' })
    await stop.focus()
    await page.keyboard.press('ArrowRight')
    await expect(stop).toHaveAttribute('aria-valuenow', '2.5')
    await page.getByLabel('Maximum of Argument').fill('8')
    await page.getByLabel('Maximum of Argument').press('Enter')
    await expect(stop).toHaveAttribute('aria-valuenow', '5')
    await page.getByRole('button', { name: 'Duplicate Sources' }).click()
    await expect(page.getByLabel('Title of Sources 2')).toBeVisible()
    await page.getByRole('button', { name: /^Undo: duplicate/ }).click()
    await expect(page.getByLabel('Title of Sources 2')).toHaveCount(0)
    await page.getByLabel('Words of level 1 of Argument').fill('no claim')
    await page.getByLabel('Words of level 1 of Sources').fill('none at all')
    await page.getByLabel('Words of level 1 of Sources').blur()
    await expect(page.locator('.findings')).toHaveCount(0)
    await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
    await page.reload()
    await page.getByRole('button', { name: 'Essay' }).click()
    await expect(page.getByRole('slider', { name: 'Level 3 of Argument' })).toHaveAttribute('aria-valuenow', '5')
    await expect(page.getByLabel('Words of level 1 of Argument')).toHaveValue('no claim')
  })

  await test.step('ready, as students see it, and in use in one step', async () => {
    await page.getByRole('button', { name: 'Make it ready' }).click()
    // What stands beside it moves as it is ready.
    await expect(page.getByRole('button', { name: 'Retire it' })).toBeVisible()
    await page.getByRole('button', { name: /As students see it/ }).click()
    await expect(page.getByText('12 points in all.')).toBeVisible()
    await page.getByRole('button', { name: /^Back/ }).click()
    await page.getByLabel('Assessment to use it in').selectOption('Map project')
    await page.getByRole('button', { name: 'Use it', exact: true }).click()
    await expect(page.getByRole('alert')).toContainText(/^Map project has \d+ readings already/)
    await page.getByRole('button', { name: 'Understood' }).click()
    await page.goto('/courses/cfs118-2026/agree')
    await page.getByLabel('Find in the library').fill('supported throughout')
    await page.getByRole('button', { name: 'Essay' }).click()
    await page.getByLabel('Assessment to use it in').selectOption('Talk at the outcrop')
    await page.getByRole('button', { name: 'Use it', exact: true }).click()
    await expect(page.getByRole('complementary').getByText('CFS 118 autumn 2026')).toBeVisible()
  })

  await test.step('changed after marking has begun: the next version, and what was marked stays as it was', async () => {
    await page.goto(`${COURSE}/agree`)
    await page.getByRole('button', { name: 'A map for a reader', exact: true }).click()
    await page.getByLabel('Title of Purpose and reader').fill('Reader and purpose')
    await page.getByLabel('Title of Purpose and reader').press('Enter')
    await expect(page.getByText(/^Version 2, draft/)).toBeVisible()
    await page.goto(`${COURSE}/students/cfs214-2026-student-12`)
    await page.getByRole('button', { name: 'Map project' }).click()
    await expect(page.getByText(/Purpose and reader 8/).first()).toBeVisible()
  })

  await test.step('carried over as a trial: what it changes, who moves, adopted, and on the record', async () => {
    await page.goto(`${COURSE}/agree`)
    await page.getByRole('button', { name: 'A map for a reader', exact: true }).click()
    await page.getByLabel('Points of level 3 of Relief and terrain').fill('8.5')
    await page.getByLabel('Points of level 3 of Relief and terrain').press('Enter')
    const side = page.getByRole('complementary')
    await expect(side.getByText('points 0 · 5 · 8.5 · 10, were 0 · 5 · 8 · 10')).toBeVisible()
    await expect(side.getByText('was called Purpose and reader')).toBeVisible()
    await side.getByRole('button', { name: 'Use version 2 from now on' }).click()
    await expect(side.getByText(/472 readings by an earlier version/)).toBeVisible()
    await side.getByRole('button', { name: 'carry them over…' }).click()
    await expect(page.getByRole('dialog')).toContainText(
      '472 readings would be carried over, each level to the same level. The marks of 209 of them change',
    )
    await page.getByRole('button', { name: 'Try it' }).click()
    await expect(page.getByText(/Trial: \d+ grades? changes?/)).toBeVisible()
    await page.getByRole('button', { name: 'Adopt' }).click()
    await page.getByRole('dialog').getByRole('textbox').fill('The level was worth too little')
    await page.getByRole('dialog').getByRole('button', { name: /Adopt/ }).click()
    await expect(side.getByText(/readings by an earlier version/)).toHaveCount(0)
    await page.goto(`${COURSE}/record`)
    await expect(page.getByText(/472 readings of Map project carried over to another version/).first()).toBeVisible()
  })
})

test('three markers are tuned on two exemplars: unseen by each other, then each sees how far off they are', async ({
  lead: page,
  browser,
  served,
}) => {
  await page.goto(`${COURSE}/agree/exemplars`)
  await page.getByLabel('Exemplars of').selectOption('Written paper')
  for (const [label, mark] of [
    ['A clear pass', '52'],
    ['Just short', '38.5'],
  ] as const) {
    await page.keyboard.press('x')
    await page.getByLabel('Called').fill(label)
    await page.getByLabel(/^The script/).fill(`Answer to the third question: ${label}.`)
    await page.getByRole('textbox', { name: 'Mark', exact: true }).fill(mark)
    await page.getByRole('textbox', { name: 'Mark', exact: true }).press('Enter')
    await page.getByLabel('Why it is worth that').fill('It closes the traverse and says how well.')
    await page.getByRole('button', { name: 'Save it' }).click()
    await expect(page.getByRole('button', { name: label })).toBeVisible()
  }
  const side = page.getByRole('complementary')
  await expect(side.getByText('not read')).toHaveCount(11)

  const marks = { 'Rune Daal': ['52', '38.5'], 'Lea Ostrand': ['58', '44.5'], 'Sabine Imre': ['44', '34'] }
  for (const [name, given] of Object.entries(marks)) {
    const context = await browser.newContext({ baseURL: served.address, reducedMotion: 'reduce' })
    const theirs = await context.newPage()
    await comeIn(theirs, name)
    await theirs.goto(`${COURSE}/agree/exemplars`)
    await theirs.getByLabel('Exemplars of').selectOption('Written paper: 2, 2 unread')
    await expect(theirs.getByRole('heading', { name: 'Not yet open for you' })).toBeVisible()
    for (const mark of given) {
      await expect(theirs.getByText(/^Agreed/)).toHaveCount(0)
      await theirs.getByRole('textbox', { name: 'Mark', exact: true }).fill(mark)
      await theirs.getByRole('textbox', { name: 'Mark', exact: true }).press('Enter')
      await theirs.keyboard.press('Control+Enter')
      await expect(theirs.getByText(/^Agreed/)).toBeVisible()
      if (mark === given[0]) await theirs.getByRole('button', { name: 'Read the next one' }).click()
    }
    await expect(theirs.getByRole('heading', { name: 'You may begin to mark' })).toBeVisible()
    await theirs.getByRole('button', { name: 'A clear pass' }).click()
    await expect(theirs.getByText('It closes the traverse and says how well.')).toBeVisible()
    for (const other of Object.keys(marks)) await expect(theirs.getByRole('main').getByText(other)).toHaveCount(0)
    await context.close()
  }

  await page.reload()
  await page.getByLabel('Exemplars of').selectOption('Written paper: 2')
  await expect(side.getByRole('img', { name: 'Lea Ostrand leans: 6.0 marks generous' })).toBeVisible()
  await expect(side.getByRole('img', { name: /^Sabine Imre leans: 6\.3 marks severe/ })).toBeVisible()
  await expect(side.getByRole('img', { name: 'Rune Daal is level: 0.0 marks generous' })).toBeVisible()
  await expect(side.getByText(/intraclass correlation 0\.\d\d/)).toBeVisible()
  await side.getByRole('button', { name: 'Hold the marking for Lea Ostrand' }).click()
  await expect(side.getByRole('button', { name: 'Open the marking for Lea Ostrand' })).toBeVisible()
})

test('points hidden while marking are not to be looked up in the library either', async ({ lead: page, browser, served }) => {
  await page.goto(`${COURSE}/agree`)
  await page.getByRole('button', { name: 'Map project' }).click()
  await expect(page.getByText('40 points make 100: a point counts 2.5.')).toBeVisible()
  await page.getByLabel('points hidden while marking').click()
  await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
  const context = await browser.newContext({ baseURL: served.address, reducedMotion: 'reduce' })
  const marker = await context.newPage()
  await comeIn(marker, MARKER)
  await marker.goto(`${COURSE}/agree`)
  await expect(marker.getByText('Points are hidden while it is marked by.')).toBeVisible()
  await expect(marker.getByText('choices serve the reader')).toBeVisible()
  await expect(marker.getByRole('main')).not.toContainText('40')
  await expect(marker.getByRole('button', { name: /As students see it|Take it out/ })).toHaveCount(0)
  await marker.keyboard.press('v')
  await expect(marker.getByRole('heading', { name: 'Purpose and reader' })).toBeVisible()
  await expect(marker.getByRole('main')).not.toContainText('40')
})

test('what the server refuses says why, and leaves nothing to undo', async ({ lead: page }) => {
  await page.goto(`${COURSE}/agree`)
  await page.getByRole('button', { name: 'Field book', exact: true }).click()
  await page.getByLabel('Assessment to use it in').selectOption('Map project')
  await page.getByRole('button', { name: 'Use it' }).click()
  await expect(page.getByRole('alert')).toContainText(/Map project has \d+ readings already/)
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled()
  await page.getByRole('button', { name: 'Understood' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
})

test('an exemplar by a rubric is judged by keyboard alone, a key a criterion', async ({ page }) => {
  await comeIn(page, 'Yuto Harrow')
  await page.goto(`${COURSE}/agree/exemplars`)
  await expect(page.getByText('Not judged yet: Purpose and reader')).toBeVisible()
  await page.getByRole('radiogroup', { name: 'Purpose and reader' }).getByRole('radio').first().focus()
  for (const key of ['1', '2', '2', '2', '3']) await page.keyboard.press(key)
  await expect(page.getByText('Not judged yet: Sheet rules not kept')).toBeVisible()
  await page.keyboard.press('1')
  await expect(page.getByRole('button', { name: /Hand it in/ })).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByText(/^Agreed 21\.25 of 100; you gave 37\.5/)).toBeVisible()
})

test('a scale and a mark scheme are made by keyboard', async ({ lead: page }) => {
  await goTo(page, 'Agree')
  await page.getByRole('button', { name: 'Make a new…' }).click()
  await page.getByRole('button', { name: 'scale', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'New scale' })).toBeVisible()
  const sound = page.getByRole('slider', { name: 'sound stands for' })
  await sound.focus()
  await page.keyboard.press('PageUp')
  await expect(sound).toHaveAttribute('aria-valuenow', '65')
  await page.getByLabel('Percent of strong').fill('60')
  await page.getByLabel('Percent of strong').press('Enter')
  await expect(page.getByText('strong at 60% does not stand above sound at 65%.')).toBeVisible()
  await page.getByRole('button', { name: 'mend it' }).first().click()
  await page.getByRole('button', { name: 'Read back halfway between neighbours' }).click()
  await expect(page.locator('.findings')).toHaveCount(0)
  await page.getByRole('button', { name: 'Make a new…' }).click()
  await page.getByRole('button', { name: 'mark scheme', exact: true }).click()
  await page.getByRole('button', { name: /Another part/ }).click()
  await page.getByLabel('Points of Part 2').fill('2.5')
  await page.getByLabel('Points of Part 2').press('Enter')
  await expect(page.getByText(/12\.5 points/)).toBeVisible()
})
