import { CourseHead, Id } from '../course'
import { OwnSettings } from '../own-settings'
import { Account, Department, Email, Installation, NewPassphrase, SignInName } from '../people'
import { PersonName } from '../roll'
import { route } from '../route'
import { Self } from '../self'
import { FoundProvider, Provider, ProviderMode, Settings, SignOn } from '../sign-on'
import { z } from 'zod'
import { Person, version } from './common'

const Token = z.string().min(20, 'That is not a whole link: copy it again.').max(100)

const Me = Self.extend({
  /** The marker as whom one looks at a course, read only. */
  look: Person.extend({ courseId: Id }).nullable(),
})
export type Me = z.infer<typeof Me>

export const doorRoutes = {
  courses: route({
    method: 'GET',
    path: '/api/courses',
    access: 'anyone',
    summary: 'The courses one has a role in; none where nobody is signed in',
    response: z.array(CourseHead),
  }),
  installation: route({
    method: 'GET',
    path: '/api/installation',
    access: 'anyone',
    summary: 'Whose installation it is, and whether it waits to be set up',
    response: Installation,
  }),
  setUp: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/installation',
    access: 'anyone',
    summary: 'Set the installation up, with the code from its console: the first person, who administers it',
    body: z.strictObject({
      code: z.string().trim().min(1, 'Type the code that stands in the console.').max(40),
      department: Department,
      name: PersonName,
      signIn: SignInName,
      email: Email.nullable(),
      passphrase: NewPassphrase,
    }),
    response: Self,
  }),
  lookAtWayIn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/way-in/look',
    access: 'anyone',
    summary: 'Whose one-time link it is',
    body: z.strictObject({ token: Token }),
    response: z.strictObject({ name: z.string(), signIn: z.string(), kind: z.enum(['invitation', 'reset']), department: z.string() }),
  }),
  useWayIn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/way-in',
    access: 'anyone',
    summary: 'Choose a passphrase by a one-time link, and come in',
    body: z.strictObject({ token: Token, passphrase: NewPassphrase }),
    response: Self,
  }),
  account: route({
    method: 'GET',
    path: '/api/account',
    access: 'signed in',
    summary: 'One’s own account, with where one is signed in',
    response: Account,
  }),
  editAccount: route({
    takes: 'a little',
    method: 'PATCH',
    path: '/api/account',
    access: 'signed in',
    summary: 'Change one’s own name or mail address',
    body: z.strictObject({ version, name: PersonName.optional(), email: Email.nullable().optional() }),
    response: Account,
  }),
  keepOwnSettings: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/account/settings',
    access: 'signed in',
    summary: 'Say how one writes numbers and days, and which keys one presses',
    body: OwnSettings,
    mayWhileLooking: true,
  }),
  changePassphrase: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/account/passphrase',
    access: 'signed in',
    summary: 'Change one’s own passphrase; all other sessions end',
    body: z.strictObject({ old: z.string().min(1, 'Type the one you have now.').max(500), passphrase: NewPassphrase }),
  }),
  endSession: route({
    method: 'DELETE',
    path: '/api/account/sessions/:sessionId',
    access: 'signed in',
    summary: 'End one of one’s own sessions',
    params: z.strictObject({ sessionId: z.string().max(40) }),
  }),
  endOtherSessions: route({
    method: 'DELETE',
    path: '/api/account/sessions',
    access: 'signed in',
    summary: 'End all of one’s own sessions but this one',
  }),
  settings: route({
    method: 'GET',
    path: '/api/installation/settings',
    access: 'admin',
    summary: 'The department’s name and how people come in; no secret',
    response: Settings,
  }),
  setSettings: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/installation/settings',
    access: 'admin',
    summary: 'Change the department’s name and how people come in',
    body: z.strictObject({
      version: z.number().int(),
      department: Department.optional(),
      signOn: SignOn.optional(),
      namelessAfter: z.number().int().min(0).max(36_500).optional(),
    }),
    response: Settings,
  }),
  tryProvider: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/installation/settings/try-provider',
    access: 'admin',
    summary: 'Ask a provider who it is, before people are sent to it; changes nothing',
    body: Provider,
    response: FoundProvider,
  }),
  setProviderMode: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/installation/settings/stand-in',
    access: 'admin',
    summary: 'Let the stand-in provider fail in one way or another, or work again',
    body: z.strictObject({ mode: ProviderMode }),
    response: Settings,
  }),
  beginSignOn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/sign-on/begin',
    access: 'anyone',
    summary: 'Begin to come in by the provider: where the browser goes for that',
    response: z.strictObject({ to: z.string() }),
  }),
  finishSignOn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/sign-on',
    access: 'anyone',
    summary: 'Come in with what the provider sent the browser back with',
    body: z.strictObject({ query: z.string().min(1).max(8000) }),
    response: Self,
  }),
  openapi: route({ method: 'GET', path: '/api/openapi.json', access: 'anyone', summary: 'This description', response: z.unknown() }),
  health: route({
    method: 'GET',
    path: '/api/health',
    access: 'anyone',
    summary: 'Whether the server is up',
    response: z.strictObject({ ok: z.literal(true) }),
  }),
  directory: route({
    method: 'GET',
    path: '/api/sign-on',
    access: 'anyone',
    summary: 'Demo people of the stand-in sign-on; empty unless the server holds demo data',
    response: z.strictObject({
      people: z.array(z.strictObject({ signIn: z.string(), name: z.string(), does: z.string() })),
      passphrase: z.string().nullable(),
    }),
  }),
  signIn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/session',
    access: 'anyone',
    summary: 'Sign in',
    body: z.strictObject({
      signIn: z.string().trim().min(1, 'Who are you?').max(200),
      passphrase: z.string().min(1, 'The passphrase is missing.').max(500),
    }),
    response: Self,
  }),
  me: route({
    method: 'GET',
    path: '/api/session',
    access: 'anyone',
    summary: 'Who is signed in; null where nobody is, or somebody else than the page was opened by',
    response: Me.nullable(),
  }),
  signOut: route({ method: 'DELETE', path: '/api/session', access: 'signed in', summary: 'Sign out', mayWhileLooking: true }),
}
