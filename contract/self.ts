import { z } from 'zod'
import { Id } from './course'
import { OwnSettings } from './own-settings'

/** Whoever has signed in, with what seals the work that their browser keeps. */
export const Self = z.strictObject({
  id: Id,
  name: z.string(),
  /** Whether they administer the installation. */
  admin: z.boolean(),
  keepKey: z.base64(),
  /** The installation's, by which days begin and moments are shown. */
  timeZone: z.string(),
  settings: OwnSettings,
})
