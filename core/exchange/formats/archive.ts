import { startsWith, type Format } from './format'

/** Files packed together, of no kind that we know. */
export const archive: Format = {
  called: 'an archive of other files',
  begins: startsWith(0x50, 0x4b),
  instead: 'Unpack it, and bring in the file that is needed.',
}
