/** A name in the parts that a roster gives it in. */
export interface NameParts {
  given: string
  middle: string
  family: string
}

/** What stands for no name where a format asks for one. */
const NO_NAME = '—'
/** A part of a name as a roster gives it: nothing where it only fills a column that may not be empty. */
export const namePart = (text = ''): string => (text === NO_NAME ? '' : text)

/** The whole name, as it is shown. */
export const wholeName = ({ given, middle, family }: NameParts): string =>
  [given, middle, family]
    .map((n) => n.trim())
    .filter(Boolean)
    .join(' ')
    .replace(/\s+/g, ' ')

/**
 * A name in parts for a format that wants a given and a family name: as it came where it is still that name, else the first word as the
 * given name and all others as the family's. A part that there is not is a dash.
 * @param kept the parts that it came in; null where it did not come from a roster
 */
export function nameParts(name: string, kept: NameParts | null): NameParts {
  const [first = '', ...rest] = name.split(' ')
  const { given, middle, family } = kept && wholeName(kept) === name ? kept : { given: first, middle: '', family: rest.join(' ') }
  return { given: given || NO_NAME, middle, family: family || NO_NAME }
}

export const sameParts = (a: NameParts | undefined, b: NameParts): boolean =>
  a !== undefined && a.given === b.given && a.middle === b.middle && a.family === b.family
