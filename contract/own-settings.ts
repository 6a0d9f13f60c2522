import './no-made-code'
import { z } from 'zod'

/** A key as a page announces it, or as a person presses it: a sign, a name like `ArrowDown`, with `Ctrl+`, `Alt+`, `Shift+` in front. */
const KeyName = z.string().min(1, 'Press a key.').max(24)
const MOST_KEYS = 100

/** How one writes, and which keys one presses: one's own wherever one signs in. */
export const OwnSettings = z.strictObject({
  /** What stands between the whole and its parts. */
  decimal: z.enum(['point', 'comma']),
  days: z.enum(['day first', 'year first']),
  /** What is pressed in the place of a key that pages announce. */
  keys: z
    .record(KeyName, KeyName)
    .refine((keys) => Object.keys(keys).length <= MOST_KEYS, `At most ${MOST_KEYS} keys can be other ones: set some back first.`),
})
export type OwnSettings = z.infer<typeof OwnSettings>
export const DECIMALS = OwnSettings.shape.decimal.options
export const DAYS = OwnSettings.shape.days.options

/** Of whoever has chosen nothing. */
export const USUAL_SETTINGS: OwnSettings = { decimal: 'point', days: 'day first', keys: {} }
