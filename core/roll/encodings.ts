/** Ways in which files of text are written, and what people know them by. */
export const ENCODINGS = {
  'utf-8': 'UTF-8',
  'windows-1252': 'western Europe (Windows-1252)',
  'windows-1250': 'central Europe (Windows-1250)',
  'windows-1251': 'Cyrillic (Windows-1251)',
  'windows-1253': 'Greek (Windows-1253)',
  'windows-1254': 'Turkish (Windows-1254)',
  'windows-1257': 'the Baltic (Windows-1257)',
  macintosh: 'an older Mac (Mac OS Roman)',
} as const
export type Encoding = keyof typeof ENCODINGS
