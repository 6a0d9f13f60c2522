import { startsWith, type Format } from './format'

/** Both stand in the same container. */
export const oldWorkbook: Format = {
  called: 'an old or a locked workbook',
  begins: startsWith(0xd0, 0xcf, 0x11, 0xe0),
  instead: 'Save it as XLSX without a password.',
}
