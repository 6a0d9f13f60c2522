import type { Location } from 'react-router'

/** People who are carried from one stop to another, with what they are. */
export interface Carried {
  title: string
  /** Null for people of the whole course. */
  assessmentId: string | null
  studentIds: string[]
}

/** Those who were carried to where one is; undefined for nobody. */
export const carriedIn = ({ state }: Location): Carried | undefined => (state as { carried?: Carried } | null)?.carried
