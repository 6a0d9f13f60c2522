import type { Format } from './format'

export const document: Format = {
  called: 'a document (DOCX)',
  isIn: (files) => files.has('word/document.xml'),
  instead: 'Its tables are read at Agree, as rubrics; save any other as CSV or XLSX and bring that in.',
}
