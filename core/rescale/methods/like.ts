/** Whose marks are taken for the measure. */
export type Like =
  | { group: 'typed' }
  | { group: 'others' }
  | { group: 'section'; sectionId: string }
  /** An earlier issue of the course, as its marks counted or as they were marked. */
  | { group: 'year'; courseId: string; term: string; asMarked?: boolean | undefined }

/** A group in words; sections are named by whoever knows them. */
export const likeInWords = (like: Like, section: (id: string) => string): string =>
  like.group === 'others'
    ? 'all the others'
    : like.group === 'section'
      ? section(like.sectionId)
      : like.group === 'year'
        ? `${like.term}${like.asMarked ? ', as marked' : ''}`
        : 'typed figures'
