import { readFile } from 'node:fs/promises'
import { comeIn, COURSE, expect, LEAD, signOut, test } from './level-table'
import { tabTo } from './moderating'

const AT = `${COURSE}/agree/standings`

test('those near a level are found by a stretch of its ruler, kept as a group, carried to the sheet, and taken out', async ({
  lead: page,
}) => {
  await page.goto(AT)
  await page.getByRole('button', { name: 'Accounts for every observation' }).click()
  const [from, upTo] = ['Who stands from', 'Who stands up to'].map((name) => page.getByRole('slider', { name }))
  await test.step('the stretch is pulled by mouse to with help alone', async () => {
    const pull = async (end: typeof from, words: string) => {
      const [box, to] = [
        (await end!.boundingBox())!,
        (await page.getByRole('group', { name: 'A stretch of levels' }).getByText(words, { exact: true }).boundingBox())!,
      ]
      await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
      await page.mouse.down()
      await page.mouse.move(to.x + to.width / 2, box.y + box.height / 2, { steps: 6 })
      await page.mouse.up()
    }
    await pull(upTo, 'with help')
    await expect(upTo!).toHaveAttribute('aria-valuetext', 'with help')
    await pull(from, 'with help')
    await expect(from!).toHaveAttribute('aria-valuetext', 'with help')
    await expect(page.getByText(/^\d+ of 236$/)).not.toHaveText('236 of 236')
  })
  const shown = Number((await page.getByText(/^\d+ of 236$/).innerText()).split(' ')[0])

  await test.step('they are kept as a group, which stays whatever is looked at, and after a reload', async () => {
    await page.getByLabel('Name of the group').fill('Nearly alone')
    await page.getByRole('button', { name: 'Keep as a group' }).click()
    await expect(page.getByRole('heading', { name: 'Nearly alone' })).toBeVisible()
    await page.reload()
    await page.getByRole('button', { name: 'Nearly alone', exact: true }).click()
    await expect(page.getByText(`${shown} of 236`)).toBeVisible()
  })

  await test.step('as a file', async () => {
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Take out as CSV' }).click()
    const csv = await readFile((await (await download).path())!, 'utf8')
    expect(csv.trim().split('\n')).toHaveLength(shown + 1)
  })

  await test.step('to the sheet of an assessment', async () => {
    await page.getByLabel('Carried for').selectOption({ label: 'Written paper' })
    await page.getByRole('button', { name: 'Carry to Mark' }).click()
    await expect(page.getByText(/Nearly alone/).first()).toBeVisible()
  })
})

test('with the keyboard alone: a student opens, a result is noted, and a student sees only what is shown to them', async ({ page }) => {
  const keys = page.keyboard
  await comeIn(page, LEAD)
  await page.goto(AT)
  await expect(page.getByRole('heading', { name: 'Who stands where' })).toBeVisible()
  await keys.press('o')
  await keys.press('j')
  await expect(page.getByRole('heading', { name: 'Note a result' })).toBeVisible()
  await tabTo(page, page.getByLabel('What it rests on'))
  await keys.type('Could say why, at the weir')
  await tabTo(page, page.getByRole('button', { name: 'Note it' }))
  await keys.press('Enter')
  await expect(page.getByRole('listitem').filter({ hasText: 'Could say why, at the weir' })).toBeVisible()
  await keys.press('Escape')
  await expect(page.getByRole('heading', { name: 'Its rule' })).toBeVisible()
  await signOut(page, LEAD)
  await page.setViewportSize({ width: 390, height: 844 })
  await page.getByRole('button', { name: /sees own work once it is released/ }).click()
  const own = page.getByRole('region', { name: 'Where you stand' })
  await expect(own.getByRole('heading', { name: 'Sheds detail with judgement' })).toBeVisible()
  await expect(own.getByRole('heading', { name: 'Draws for a reader' })).toHaveCount(0)
  // Nothing of it is wider than the phone.
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
})
