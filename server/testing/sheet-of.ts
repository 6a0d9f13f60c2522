import { unpackSheet, type Sheet, type SheetInColumns } from '#contract'
import { api, type Client } from './serve'

/** The mark sheet of the demo, and the candidate numbers of one of its sections. */
export async function sheetOf(lead: Client, section: string): Promise<{ sheet: Sheet; numbers: string[] }> {
  const sheet = unpackSheet((await lead('get', api('/sheet')).expect(200)).body as SheetInColumns)
  const { id } = sheet.sections.find((s) => s.name === section)!
  return { sheet, numbers: sheet.students.filter((s) => s.sectionId === id).map((s) => s.candidate) }
}
