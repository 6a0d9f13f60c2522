import type { Library } from '#contract'

export type EntryHead = Omit<Library['rubrics'][number], 'criteria' | 'bands' | 'descending' | 'alike'>

/** An entry of the library without what is in it: Ola's, ready, and used nowhere. */
export const entry = (id: string, title: string, more: Partial<EntryHead> = {}): EntryHead => ({
  id,
  title,
  ownerId: 'ola',
  owner: 'Ola Quist',
  version: 1,
  state: 'ready',
  revision: 1,
  read: false,
  uses: [],
  superseded: false,
  lineId: id,
  copiedFrom: null,
  suggestions: [],
  ...more,
})
