import { z } from 'zod'
import { Department } from './people'
import { route } from './route'
import { Self } from './self'
import { FoundProvider, Provider, ProviderMode, Settings, SignOn } from './sign-on'

/** Routes of the installation’s settings, and of coming in by a provider. */
export const signOnRoutes = {
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
}
