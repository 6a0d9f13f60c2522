import { useSyncExternalStore } from 'react'
import { z } from 'zod'

/** How pages look to one person, in this browser. */
const Appearance = z.object({
  shade: z.enum(['as the system', 'light', 'dark']).catch('as the system'),
  rows: z.enum(['close', 'usual', 'wide']).catch('usual'),
})
export type Appearance = z.infer<typeof Appearance>
export const SHADES = Appearance.shape.shade.def.innerType.options
export const ROWS = Appearance.shape.rows.def.innerType.options

/** Pixels, as `--row` in the theme. */
const ROW_HEIGHTS: Record<Appearance['rows'], number> = { close: 26, usual: 30, wide: 38 }

const KEPT = 'level-table-appearance'
const asKept = (): Appearance => {
  try {
    return Appearance.parse(JSON.parse(localStorage.getItem(KEPT) ?? '{}'))
  } catch {
    return Appearance.parse({})
  }
}

let now = asKept()
const heard = new Set<() => void>()
const dark = () => window.matchMedia('(prefers-color-scheme: dark)')

function apply(): void {
  const { shade, rows } = now
  const isDark = shade === 'dark' || (shade === 'as the system' && dark().matches)
  document.documentElement.dataset.shade = isDark ? 'dark' : 'light'
  document.documentElement.dataset.rows = rows
}

/** Puts it on the page, and keeps to it while the system or another tab changes its mind. */
export function wearAppearance(): void {
  apply()
  dark().addEventListener('change', apply)
  window.addEventListener('storage', ({ key }) => {
    if (key === KEPT) take(asKept())
  })
}

function take(next: Appearance): void {
  now = next
  apply()
  for (const tell of heard) tell()
}

export function setAppearance(change: Partial<Appearance>): void {
  localStorage.setItem(KEPT, JSON.stringify({ ...now, ...change }))
  take({ ...now, ...change })
}

export const useAppearance = (): Appearance =>
  useSyncExternalStore(
    (tell) => {
      heard.add(tell)
      return () => heard.delete(tell)
    },
    () => now,
  )

/** The height of a row of a grid that draws only what is in sight, in pixels. */
export const rowHeight = (): number => ROW_HEIGHTS[now.rows]
