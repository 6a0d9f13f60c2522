/** A name in the parts that a roster gives it in. */
export interface NameParts {
  given: string
  middle: string
  family: string
}

/** The whole name, as it is shown. */
export const wholeName = ({ given, middle, family }: NameParts): string =>
  [given, middle, family]
    .map((n) => n.trim())
    .filter(Boolean)
    .join(' ')
    .replace(/\s+/g, ' ')

/**
 * A name in parts for a format that wants them: as it came where it is still that name, else the first word as the given name and all
 * others as the family's.
 * @param kept the parts that it came in; null where it did not come from a roster
 */
export function nameParts(name: string, kept: NameParts | null): NameParts {
  if (kept && wholeName(kept) === name) return kept
  const [given = '', ...rest] = name.split(' ')
  return { given, middle: '', family: rest.join(' ') }
}

export const sameParts = (a: NameParts | undefined, b: NameParts): boolean =>
  a !== undefined && a.given === b.given && a.middle === b.middle && a.family === b.family
