import { hash } from 'node:crypto'

/** SHA-256 in hexadecimal: of a text as UTF-8, or of bytes. */
export const sha256 = (of: string | Uint8Array): string => hash('sha256', of)
