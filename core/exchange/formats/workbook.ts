import type { Format } from './format'

export const workbook: Format = {
  called: 'a workbook (XLSX)',
  isIn: (files) => files.has('xl/workbook.xml'),
  instead: 'Save its sheet as CSV and bring that in.',
}
