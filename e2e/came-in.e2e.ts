import type { Browser, Page } from '@playwright/test'
import { comeIn, expect, test } from './level-table'

const SECOND = '/courses/cfs118-2026'
const DESK = `${SECOND}/mark/desk?of=cfs118-2026-sketch`

async function beside(browser: Browser, address: string, name: string): Promise<Page> {
  const context = await browser.newContext({ baseURL: address, reducedMotion: 'reduce' })
  const page = await context.newPage()
  await comeIn(page, name)
  return page
}
const choose = async (page: Page, label: RegExp) => {
  const picker = page.getByLabel('Script', { exact: true })
  const option = picker.locator('option', { hasText: label })
  await picker.selectOption((await option.getAttribute('value'))!)
}

test('work comes through the box: placed, sorted by hand, read as a PDF, and read anew where it came again', async ({
  lead: page,
  browser,
  served,
}) => {
  await page.goto(`${SECOND}/mark/came-in`)
  await test.step('a box out of reach is said, and nothing is lost', async () => {
    const admin = await (await browser.newContext({ baseURL: served.address, reducedMotion: 'reduce' })).newPage()
    await admin.goto('/')
    await admin.getByRole('button', { name: /^Orsolya Tamm/ }).click()
    await admin.getByRole('link', { name: 'courses' }).click()
    await admin.getByRole('button', { name: /^CFS 118/ }).click()
    await admin.getByLabel('let the submission box fail').click()
    await expect(admin.getByText('Orsolya Tamm let it fail')).toBeVisible()
    await page.reload()
    await expect(page.getByText('The submission box cannot be reached.')).toBeVisible()
    await expect(page.getByText(/It is made to fail, by whoever administers/)).toBeVisible()
    await admin.getByLabel('let the submission box fail').click()
    await expect(admin.getByText('Orsolya Tamm let it work again')).toBeVisible()
    await page.reload()
  })

  await test.step('collected with a key: what fits is placed, the rest waits with the reason', async () => {
    await expect(page.getByText('7 pieces of work lie in the submission box.')).toBeVisible()
    // Keys of a letter are the screen's where no field has the focus.
    await page.getByRole('heading', { level: 1 }).click()
    await page.keyboard.press('c')
    await expect(page.getByRole('status').filter({ hasText: '3 placed, 3 to sort, 1 set aside.' })).toBeVisible()
    await expect(page.getByRole('row', { name: /sheet-b-again/ })).toContainText('set aside: The same file came before.')
    await expect(page.getByRole('row', { name: /^20 Nov.*sheet-a/ })).toContainText('late by')
    await expect(page.getByRole('link', { name: 'what came in 3' })).toBeVisible()
  })

  await test.step('a wrong assessment is put right by hand, and taken back with undo', async () => {
    await page.getByRole('button', { name: 'paper.pdf' }).click()
    await expect(page.getByText('This course has no assessment “Written paper”.').last()).toBeVisible()
    await page.getByLabel('For which assessment').selectOption('Sketch map')
    await page.getByRole('button', { name: 'Place it there' }).click()
    await expect(page.getByRole('row', { name: /paper\.pdf/ })).toContainText('Sketch map, attempt 2')
    await page.keyboard.press('Control+z')
    await expect(page.getByRole('row', { name: /paper\.pdf/ })).toContainText('to sort: Put back to be sorted.')
    await page.getByRole('button', { name: 'walk.txt' }).click()
    await page.getByLabel('Or set it aside, because').fill('From last year')
    await page.getByLabel('Or set it aside, because').press('Enter')
    await expect(page.getByRole('row', { name: /walk\.txt/ })).toContainText('set aside: From last year')
  })

  await test.step('a marker reads the PDF on the desk, with the attempt before it at hand', async () => {
    const marker = await beside(browser, served.address, 'Tadesse Abara')
    await marker.goto(DESK)
    await expect(marker.getByRole('button', { name: 'attempt 2, the latest' })).toBeVisible()
    await expect(marker.getByText('2 pages')).toBeVisible()
    await expect(marker.getByText('The ford below the mill')).toBeVisible()
    await expect(marker.getByText('stile, moved')).toBeVisible()
    await marker.getByRole('button', { name: 'attempt 1', exact: true }).click()
    await expect(marker.getByText(/^Maker's note/)).toBeVisible()
  })

  await test.step('a script that was read came again: the reading stands until the new one, which starts from it, is handed in', async () => {
    const marker = await beside(browser, served.address, 'Lea Ostrand')
    await marker.goto(DESK)
    await choose(marker, /handed in anew/)
    const note = marker.getByRole('note')
    await expect(note).toContainText('Your reading of attempt 1')
    const before = Number(/, ([\d.]+), stands/.exec(await note.innerText())![1])
    await expect(marker.getByText(`${before} of 40`)).toBeVisible()
    await marker.getByRole('radiogroup', { name: 'Purpose and reader' }).getByRole('radio').first().click()
    await expect(marker.getByText(/^✓ saved \d/)).toBeVisible()
    await page.goto(`${SECOND}/mark/sheet`)
    await marker.keyboard.press('Control+Enter')
    await expect(marker.getByRole('note')).toHaveCount(0)
    await expect(marker.getByLabel('Script', { exact: true }).locator('option', { hasText: 'anew' })).toHaveCount(0)
  })
})

test('a reminder goes to who has something left, and is read in the post', async ({ lead: page, browser, served }) => {
  await page.goto(`${SECOND}/mark/sharing-out?of=cfs118-2026-sketch`)
  await page.getByLabel('A few words of your own').fill('The board meets on Monday.')
  await page.getByRole('button', { name: 'Remind the 3 who have something left' }).click()
  await expect(page.getByText('3 letters sent.')).toBeVisible()
  await page.getByRole('link', { name: 'The post' }).click()
  await expect(page.getByRole('row')).toHaveCount(4)
  const marker = await beside(browser, served.address, 'Tadesse Abara')
  await marker.goto(`${SECOND}/post`)
  await expect(marker.getByRole('row')).toHaveCount(2)
  await expect(marker.getByText('The board meets on Monday.')).toBeVisible()
  await expect(marker.getByText(/9 of your 9 scripts of Sketch map/)).toBeVisible()
})

test('the lead sees what a marker sees, read only, and it is on the record', async ({ lead: page }) => {
  await page.goto(`${SECOND}/mark`)
  await page.getByRole('button', { name: 'Ines Valdry, lead' }).click()
  await page.getByRole('button', { name: 'See it as a marker does…' }).click()
  await page.getByRole('button', { name: 'Lea Ostrand', exact: true }).click()
  await expect(page.getByText('You see it as Lea Ostrand does.')).toBeVisible()
  await expect(page.getByRole('heading', { name: 'What you read' })).toBeVisible()
  await page.goto(DESK)
  await expect(page.getByRole('radio').first()).toBeDisabled()
  await expect(page.getByRole('button', { name: /Hand in/ })).toHaveCount(0)
  await page.goto(`${SECOND}/compare`)
  await expect(page.getByText('This stop is for those who lead or oversee the course.')).toBeVisible()
  await page.keyboard.press('Control+Escape')
  await expect(page.getByRole('button', { name: 'Ines Valdry, lead' })).toBeVisible()
  await page.goto(`${SECOND}/record`)
  await page.getByText('1 look through a marker’s eyes').click()
  await expect(page.getByText('Ines Valdry as Lea Ostrand')).toBeVisible()
})
