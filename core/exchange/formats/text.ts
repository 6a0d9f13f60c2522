import type { Format } from './format'

/** Rows of text; what is nothing else. */
export const text: Format = { called: 'a table as text (CSV)', instead: 'Tables are brought in at Set out, Agree and Mark.' }
