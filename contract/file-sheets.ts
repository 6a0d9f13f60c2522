import { z } from 'zod'
import type { SheetOfFile } from '#core/exchange/sheets-of-file'
import { says } from './says'

/** Names of a workbook’s sheets. */
export const SheetNames = z.array(z.string().max(255)).min(1, 'Choose a sheet.').max(250)
/** The sheets of a file that is a workbook, and which of them are read. */
export const SheetsOfFile = z.array(
  says<SheetOfFile>()(z.strictObject({ name: z.string(), hidden: z.boolean(), chosen: z.boolean(), linesBefore: z.number().int() })),
)
