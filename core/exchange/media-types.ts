/** As what a file travels, by what its name ends in. */
export const MEDIA_TYPES = {
  csv: 'text/csv',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  zip: 'application/zip',
  json: 'application/json',
  pdf: 'application/pdf',
  ics: 'text/calendar',
  eml: 'message/rfc822',
} as const
export type Ending = keyof typeof MEDIA_TYPES
