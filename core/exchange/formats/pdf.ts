import { startsWith, type Format } from './format'

export const pdf: Format = {
  called: 'a PDF',
  begins: startsWith(0x25, 0x50, 0x44, 0x46),
  instead: 'Save what is in it as CSV or XLSX and bring that in.',
}
