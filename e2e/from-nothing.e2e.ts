import { readFileSync } from 'node:fs'
import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import type { Browser, Page } from '@playwright/test'
import { expect, goTo, signOut, test, type Served } from './level-table'
import { adoptByMouse } from './moderating'

test.use({ template: null })

const PASSPHRASE = 'slow barges under alder'
const ROLL = [
  'Candidate no.;Student;Section;Section name;External id',
  '7001;Aune Marsk;N;North;aune.marsk',
  '7002;Bede Holloway;N;North;bede.holloway',
  '7003;Cai Nettle;S;South;cai.nettle',
  '7004;Dara Osk;S;South;dara.osk',
].join('\r\n')

async function fillSetUp(page: Page, served: Served): Promise<void> {
  await page.goto('/')
  const code = /[A-Z2-9]{4}-[A-Z2-9]{4}-[A-Z2-9]{4}/.exec(served.console())![0]
  await page.getByLabel('Code from the console').fill(code)
  await page.getByLabel('Department').fill('Lowland Hydrography')
  await page.getByLabel('Your name').fill('Maren Osterlund')
  await page.getByLabel('Sign-in').fill('maren')
  await page.getByLabel('Passphrase', { exact: true }).fill(PASSPHRASE)
}

async function startCourse(page: Page): Promise<void> {
  await page.getByRole('link', { name: 'courses' }).click()
  await page.getByRole('button', { name: /^Start a course/ }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Code').fill('HYD 1')
  await dialog.getByLabel('Title').fill('Sluices')
  await dialog.getByLabel('Term', { exact: true }).fill('autumn 2026')
  await dialog.getByLabel('First teaching day', { exact: true }).fill('2026-09-07')
  await dialog.getByLabel('Last teaching day', { exact: true }).fill('2026-12-18')
  await dialog.getByRole('button', { name: /^Start it/ }).click()
  await expect(page.getByText('Nobody is on the roll yet.')).toBeVisible()
}

const elsewhere = async (browser: Browser, { address }: Served) =>
  (await browser.newContext({ baseURL: address, reducedMotion: 'reduce' })).newPage()

test('from an empty folder to a confirmed course and a student’s own view, with what the console and the letters say alone', async ({
  page,
  browser,
  served,
}) => {
  const links: Record<string, string> = {}
  const comeBy = async (name: string, at: Page) => {
    await at.goto(links[name]!)
    await at.getByLabel('Passphrase', { exact: true }).fill('three otters in a mill')
    await at.getByRole('button', { name: 'Come in' }).click()
  }
  await test.step('set up with the code from the console', async () => {
    await fillSetUp(page, served)
    await page.getByLabel('Passphrase', { exact: true }).fill('maren osterlund')
    await page.getByRole('button', { name: 'Set it up' }).click()
    await expect(page.getByText(/tried first, or made from one/)).toBeVisible()
    await page.getByLabel('Passphrase', { exact: true }).fill(PASSPHRASE)
    await expect(page.getByText('very hard to guess')).toBeVisible()
    await page.getByRole('button', { name: 'Set it up' }).click()
    await expect(page.getByRole('heading', { name: 'Who is here' })).toBeVisible()
  })

  await test.step('two markers and an external from a list, tried first', async () => {
    await page.keyboard.press('+')
    const dialog = page.getByRole('dialog')
    await dialog.getByRole('button', { name: 'a list' }).click()
    await dialog
      .getByLabel(/^One person a line/)
      .fill('Ibo Varga, ibo\nFia Brand, fia, fia@vale.example\nLost\nTove Quist <tove@vale.example>')
    await dialog.getByRole('button', { name: 'Try it' }).click()
    await expect(dialog.getByRole('status')).toHaveText('3 people to add · 0 here already · 1 left out')
    await dialog.getByRole('button', { name: 'Invite 3 people' }).click()
    for (const name of ['Ibo Varga', 'Fia Brand', 'Tove Quist']) links[name] = await dialog.getByLabel(`Link for ${name}`).inputValue()
    await dialog.getByRole('button', { name: 'Done' }).click()
    await expect(page.getByText('invited 3')).toBeVisible()
  })

  await test.step('a course, led by whoever starts it', async () => {
    await startCourse(page)
  })

  await test.step('a roll, the people’s parts, and the grades', async () => {
    await page.getByRole('button', { name: /^Bring in a roll/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel(/CSV, XLSX/).setInputFiles({ name: 'roll.csv', mimeType: 'text/csv', buffer: Buffer.from(ROLL) })
    await dialog.getByRole('button', { name: /^Bring in 6 changes/ }).click()
    await expect(page.getByText('4 students in 2 sections')).toBeVisible()
    await page.getByRole('link', { name: 'people', exact: true }).click()
    await page.getByLabel('Find somebody to be marker').fill('ibo')
    await page.getByRole('list', { name: 'Found' }).getByRole('button', { name: 'Ibo Varga' }).click()
    await expect(page.getByLabel('Part of Ibo Varga', { exact: true })).toHaveValue('marker')
    await page.getByLabel(/^Or several/).fill('fia')
    await page.getByRole('button', { name: 'Try it' }).click()
    await page.getByRole('button', { name: '1 person: marker' }).click()
    await page.getByRole('button', { name: 'external', exact: true }).click()
    await page.getByLabel('Find somebody to be external').fill('tove')
    await page.getByLabel('Find somebody to be external').press('Enter')
    await expect(page.getByLabel('Part of Tove Quist', { exact: true })).toHaveValue('external')
    await expect(page.getByLabel('Part of Fia Brand', { exact: true })).toHaveValue('marker')
    await page.getByRole('link', { name: 'course', exact: true }).click()
    await page.getByLabel('Start from').selectOption('five words')
    await expect(page.getByLabel('Grade 1')).toHaveValue('Excellent')
    await page.getByRole('button', { name: 'Take Sufficient away' }).click()
    await expect(page.getByLabel('Grade 4')).toHaveValue('Not sufficient')
    await page.getByRole('button', { name: /^Undo: take Sufficient away/ }).click()
    await expect(page.getByLabel('Grade 5')).toHaveValue('Not sufficient')
  })

  await test.step('a plan of one log book, read by both markers', async () => {
    await page.getByRole('link', { name: /^plan/ }).click()
    await page.getByRole('button', { name: /Add the first component/ }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByLabel('Title').fill('Field work')
    await dialog.getByLabel(/^Weight/).fill('100')
    await dialog.getByRole('button', { name: /^Add/ }).click()
    await page.getByRole('button', { name: /^New assessment/ }).click()
    await dialog.getByLabel('Title').fill('Log book')
    await dialog.getByLabel('Marked out of').fill('20')
    await dialog.getByRole('button', { name: /^Add/ }).click()
    await expect(page.getByLabel('Title of Log book')).toBeVisible()
    await page.getByRole('link', { name: /^placements/ }).click()
    await page.getByRole('rowheader', { name: 'Log book' }).click()
    await page.getByLabel('Day or week for the chosen cells').fill('w3')
    await page.getByLabel('Day or week for the chosen cells').press('Enter')
    await expect(page.getByRole('gridcell', { name: /^Log book, North:/ })).toHaveAttribute('aria-label', / 2\d Sep 2026/)
  })

  await test.step('shared out, each script to both markers', async () => {
    await page.getByRole('link', { name: /^plan/ }).click()
    await page.getByLabel('Title of Log book').click()
    await page.getByLabel('Readings wanted of Log book').fill('2')
    await page.getByLabel('Readings wanted of Log book').press('Enter')
    await goTo(page, 'Mark')
    await page.getByRole('link', { name: /^sharing out/ }).click()
    await page.getByRole('button', { name: 'See what it would give' }).click()
    await expect(page.getByText('8 readings', { exact: true })).toBeVisible()
    await page.getByRole('button', { name: 'Share it out' }).click()
    await expect(page.getByText('Every one has its readers.')).toBeVisible()
  })

  await test.step('both markers come in by their links, which are good once, and read', async () => {
    // Of the fourth they are far apart.
    const readings = {
      'Ibo Varga': { 'Aune Marsk': 17, 'Bede Holloway': 12, 'Cai Nettle': 9, 'Dara Osk': 15 },
      'Fia Brand': { 'Aune Marsk': 18, 'Bede Holloway': 12, 'Cai Nettle': 9, 'Dara Osk': 7 },
    }
    for (const [name, marks] of Object.entries(readings)) {
      const marker = await elsewhere(browser, served)
      await comeBy(name, marker)
      await expect(marker.getByRole('button', { name: `${name}, marker` })).toBeVisible()
      await marker.getByRole('link', { name: 'Go on: Log book' }).click()
      const script = marker.getByLabel('Script', { exact: true })
      for (const [student, mark] of Object.entries(marks)) {
        await script.selectOption({ label: await script.locator('option', { hasText: student }).innerText() })
        await marker.getByRole('region', { name: 'Your reading' }).getByLabel('Mark', { exact: true }).fill(String(mark))
        await marker.getByRole('button', { name: /Hand in/ }).click()
        const done = Object.keys(marks).indexOf(student) + 1
        await expect(marker.getByText(done < 4 ? `${done} handed in` : 'All that is yours is handed in.')).toBeVisible()
      }
      await marker.goto('/installation')
      await expect(marker.getByRole('heading', { name: 'Not here for you' })).toBeVisible()
    }
    const again = await elsewhere(browser, served)
    await again.goto(links['Ibo Varga']!)
    await expect(again.getByRole('alert')).toContainText('used already')
  })

  await test.step('settle where they disagree', async () => {
    await goTo(page, 'Reconcile')
    await expect(page.getByRole('heading', { name: '4 scripts to settle' })).toBeVisible()
    await page.getByRole('button', { name: /Settle all 2/ }).click()
    await page.getByRole('row').filter({ hasText: 'Aune Marsk' }).click()
    await page.getByRole('button', { name: /M mean/ }).click()
    await page.getByRole('row').filter({ hasText: 'Dara Osk' }).click()
    await page.getByRole('button', { name: /H highest/ }).click()
    await adoptByMouse(page, 'the second half was overlooked')
    await expect(page.getByRole('heading', { name: 'Everything is settled' })).toBeVisible()
  })

  await test.step('students are let in by the roll, with what they will see said before', async () => {
    await goTo(page, 'Set out')
    await page.getByRole('link', { name: 'people', exact: true }).click()
    await page.getByRole('button', { name: 'Let 4 students in…' }).click()
    await expect(page.getByText(/the marks and remarks once each is released; nobody else’s/)).toBeVisible()
    await page.getByRole('button', { name: 'Let them in' }).click()
    await expect(page.getByText('4 students invited, 4 by post.')).toBeVisible()
    const folder = join(served.data, 'post', 'installation')
    const letters = (await readdir(folder)).map((f) => readFileSync(join(folder, f), 'utf8').replace(/=\r\n/g, ''))
    links['Aune Marsk'] = /http\S+come-in#\S+/.exec(letters.find((l) => l.includes('aune.marsk'))!)![0]
  })

  await test.step('a line is moved, one student with it, and it is adopted', async () => {
    await goTo(page, 'Bound')
    const line = page.getByRole('textbox', { name: 'Excellent begins at' })
    await expect(line).toHaveValue('85')
    await line.fill('88')
    await line.press('Enter')
    await expect(page.getByRole('heading', { name: 'Excellent begins at 88.0, was 85.0' })).toBeVisible()
    await expect(page.getByText('Trial: 1 grade changes')).toBeVisible()
    await adoptByMouse(page, 'the log book was easy')
    await expect(page.getByRole('heading', { name: 'Excellent begins at 88.0' })).toBeVisible()
    await expect(page.getByText('Trial:')).toHaveCount(0)
  })

  await test.step('confirm', async () => {
    await goTo(page, 'Confirm')
    await page.getByLabel('I sign that').fill('the log books are marked')
    await page.getByRole('button', { name: 'Sign and freeze' }).click()
    await expect(page.getByRole('heading', { name: 'Issue 1 is frozen' })).toBeVisible()
    const [results] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'CSV' }).first().click()])
    expect(readFileSync(await results.path(), 'utf8')).toMatch(/Aune Marsk.*87\.5.*Very good/)
  })

  await test.step('the external sees what was confirmed', async () => {
    const external = await elsewhere(browser, served)
    await comeBy('Tove Quist', external)
    await goTo(external, 'Confirm')
    await expect(external.getByRole('heading', { name: 'Issue 1 is frozen' })).toBeVisible()
  })

  await test.step('a student sees their own work', async () => {
    const student = await elsewhere(browser, served)
    await comeBy('Aune Marsk', student)
    await expect(student.getByRole('heading', { name: 'Your work in Sluices' })).toBeVisible()
    await expect(student.getByRole('row', { name: /^Log book/ })).toBeVisible()
  })

  await test.step('the door afterwards: the department’s name, and no code is asked for', async () => {
    await signOut(page, 'Maren Osterlund')
    await expect(page.getByText('Lowland Hydrography')).toBeVisible()
    await expect(page.getByLabel('Code from the console')).toHaveCount(0)
  })
})

test.describe('by the department’s sign-on', () => {
  test.use({ settings: { LEVEL_TABLE_SIGN_ON_STAND_IN: 'yes' } })

  const throughProvider = async (at: Page, signIn: string, name: string) => {
    await at.goto('/')
    await at.getByRole('button', { name: 'Come in by Vale account' }).click()
    await at.getByLabel('Sign-in').fill(signIn)
    await at.getByLabel('Name').fill(name)
    await at.getByRole('button', { name: 'Go back as them' }).click()
  }

  test('the same start: whoever runs it, somebody invited, somebody unknown, and nobody where the provider fails', async ({
    page,
    browser,
    served,
  }) => {
    await fillSetUp(page, served)
    await page.getByRole('button', { name: 'Set it up' }).click()
    await page.getByRole('link', { name: 'settings' }).click()
    const dialog = page.getByRole('dialog')

    await test.step('a provider is named, asked who it is, and takes the place of passphrases', async () => {
      await page.getByRole('button', { name: 'Name a provider…' }).click()
      await dialog.getByLabel('What people know it as').fill('Vale account')
      await dialog.getByRole('button', { name: 'Take the stand-in' }).click()
      await dialog.getByLabel(/made a person at their first sign-in/).check()
      await dialog.getByRole('button', { name: 'Ask it who it is' }).click()
      await expect(dialog.getByRole('status')).toContainText('It answers')
      await dialog.getByRole('button', { name: /^Save/ }).click()
      await page.getByLabel('Passphrases too').uncheck()
      await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
    })

    await test.step('who is invited is led to the door', async () => {
      await page.getByRole('link', { name: 'people' }).click()
      await page.keyboard.press('+')
      await dialog.getByLabel('Name').fill('Ibo Varga')
      await dialog.getByLabel('Sign-in').fill('ibo')
      await dialog.getByRole('button', { name: /^Invite/ }).click()
      await expect(dialog.getByLabel('Link for Ibo Varga')).toHaveValue(`${served.address}/`)
      await dialog.getByRole('button', { name: 'Done' }).click()
    })

    await test.step('a course with both: the one invited, and one who is made at the first sign-in', async () => {
      const fia = await elsewhere(browser, served)
      await throughProvider(fia, 'fia', 'Fia Brand')
      await expect(fia.getByRole('heading', { name: 'No course yet' })).toBeVisible()
      await startCourse(page)
      await page.getByRole('link', { name: 'people', exact: true }).click()
      for (const [typed, name] of [
        ['ibo', 'Ibo Varga'],
        ['fia', 'Fia Brand'],
      ] as const) {
        await page.getByLabel('Find somebody to be marker').fill(typed)
        await page.getByRole('list', { name: 'Found' }).getByRole('button', { name }).click()
        await expect(page.getByLabel(`Part of ${name}`, { exact: true })).toHaveValue('marker')
      }
      const ibo = await elsewhere(browser, served)
      await throughProvider(ibo, 'ibo', 'I. Varga')
      await expect(ibo.getByRole('button', { name: 'Ibo Varga, marker' })).toBeVisible()
      await fia.reload()
      await expect(fia.getByRole('button', { name: 'Fia Brand, marker' })).toBeVisible()
    })

    await test.step('back by the provider, to the page that was asked for; then it fails, and a passphrase lets in who administers', async () => {
      await signOut(page, 'Maren Osterlund')
      await page.goto('/installation/settings')
      await page.getByRole('button', { name: 'Come in by Vale account' }).click()
      await page.getByLabel('Sign-in').fill('maren')
      await page.getByRole('button', { name: 'Go back as them' }).click()
      await expect(page.getByRole('heading', { name: 'Settings' })).toBeVisible()
      await page.getByLabel('It', { exact: true }).selectOption('fails')
      await expect(page.getByText(/^✓ saved \d/)).toBeVisible()
      await page.getByRole('button', { name: 'Maren Osterlund' }).click()
      await page.getByRole('button', { name: 'Sign out' }).click()
      await page.getByRole('button', { name: 'Come in by Vale account' }).click()
      await page.getByLabel('Sign-in').fill('maren')
      await page.getByRole('button', { name: 'Go back as them' }).click()
      await expect(page.getByRole('heading', { name: 'You are not in' })).toBeVisible()
      await expect(page.getByRole('alert')).toContainText('Vale account cannot be reached')
      await page.getByRole('link', { name: 'Back to the door' }).click()
      await page.getByRole('button', { name: 'Who administers can come in by passphrase' }).click()
      await page.getByLabel('Sign-in').fill('maren')
      await page.getByLabel('Passphrase').fill(PASSPHRASE)
      await page.getByRole('button', { name: 'Sign in' }).click()
      await expect(page.getByRole('button', { name: 'Maren Osterlund' })).toBeVisible()
    })
  })
})
