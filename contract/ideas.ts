import { z } from 'zod'
import { Change } from './changes'
import { Id } from './course'

/** Where ideas are kept beside each other. */
export const IdeaStop = z.enum(['rescale', 'bound'])
export type IdeaStop = z.infer<typeof IdeaStop>

/** So many are kept at a stop, so that they can be looked at side by side. */
export const MOST_IDEAS = 4

export const IdeaName = z.string().trim().min(1, 'Give it a name.').max(80, 'At most 80 characters.')

/** A named set of changes, kept beside others. */
export const Idea = z.strictObject({
  id: Id,
  stop: IdeaStop,
  name: z.string(),
  changes: z.array(Change).max(20_000),
  by: z.string(),
  at: z.iso.datetime(),
})
export type Idea = z.infer<typeof Idea>
