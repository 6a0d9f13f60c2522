/** What can stand in the rows. */
export const KINDS = ['sections', 'markers', 'criteria', 'years'] as const
export type Kind = (typeof KINDS)[number]

export const kindOf = (text: string | null): Kind => KINDS.find((kind) => kind === text) ?? 'sections'

/** What every view is given: what it is about, and the way to look at something else. */
export interface ViewProps {
  subject: string
  onShow: (changed: { rows?: Kind; of?: string }) => void
}
