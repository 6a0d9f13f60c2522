import { clockIn } from './clock'
import { readSettings, SettingError } from './settings'

test('without a word, a server for this machine alone', () => {
  expect(readSettings({})).toMatchObject({ port: 4280, host: '127.0.0.1', data: './data', proxies: 0, origin: null })
})

test.each([
  [{ PORT: 'http' }, /PORT is “http”: give a whole number/],
  [{ LEVEL_TABLE_PROXY: '-1' }, /LEVEL_TABLE_PROXY/],
  [{ LEVEL_TABLE_ORIGIN: 'marks.example.org' }, /give scheme and host alone/],
  [{ LEVEL_TABLE_ORIGIN: 'https://marks.example.org/path' }, /give scheme and host alone/],
  [{ LEVEL_TABLE_BACKUP_KEEP: '0' }, /LEVEL_TABLE_BACKUP_KEEP is “0”: give a whole number from 1/],
  [{ LEVEL_TABLE_BACKUP_HOURS: 'daily' }, /LEVEL_TABLE_BACKUP_HOURS/],
  [{ LEVEL_TABLE_DEMO_ANYWHERE: 'true' }, /give yes or no/],
  [{ LEVEL_TABLE_SMTP: 'mail.example.org' }, /LEVEL_TABLE_SMTP is no mail server’s address/],
  [{ LEVEL_TABLE_SMTP: 'smtp://mail.example.org', LEVEL_TABLE_SMTP_FROM: 'us' }, /LEVEL_TABLE_SMTP_FROM is “us”/],
  [{ LEVEL_TABLE_TIME_ZONE: 'Europe/Nowhere' }, /give a zone by its name/],
])('%j is refused with a sentence', (env, words) => {
  expect(() => readSettings(env)).toThrow(SettingError)
  expect(() => readSettings(env)).toThrow(words)
})

describe('today is asked in the installation’s time zone', () => {
  const on = (zone: string, moment: string) => clockIn(zone, () => new Date(moment)).today()
  test('on either side of midnight', () => {
    expect([on('Europe/Lisbon', '2026-11-26T23:59:59Z'), on('Europe/Lisbon', '2026-11-27T00:00:00Z')]).toEqual(['2026-11-26', '2026-11-27'])
    expect([on('Pacific/Auckland', '2026-11-26T10:59:59Z'), on('Pacific/Auckland', '2026-11-26T11:00:00Z')]).toEqual([
      '2026-11-26',
      '2026-11-27',
    ])
    expect([on('America/Los_Angeles', '2026-11-27T07:59:59Z'), on('America/Los_Angeles', '2026-11-27T08:00:00Z')]).toEqual([
      '2026-11-26',
      '2026-11-27',
    ])
  })
  test('on either side of a change to and from summer time', () => {
    // Lisbon goes from UTC to UTC+1 on 29 March 2026 at 01:00, and back on 25 October at 02:00.
    expect([
      on('Europe/Lisbon', '2026-03-28T23:59:59Z'),
      on('Europe/Lisbon', '2026-03-29T22:59:59Z'),
      on('Europe/Lisbon', '2026-03-29T23:00:00Z'),
    ]).toEqual(['2026-03-28', '2026-03-29', '2026-03-30'])
    expect([
      on('Europe/Lisbon', '2026-10-24T22:59:59Z'),
      on('Europe/Lisbon', '2026-10-24T23:00:00Z'),
      on('Europe/Lisbon', '2026-10-25T23:59:59Z'),
    ]).toEqual(['2026-10-24', '2026-10-25', '2026-10-25'])
  })
})
