import { recordedCells, unpackSheet, type Sheet, type SheetInColumns } from '#contract'
import { api, type Client } from './serve'

/** A mark sheet as it was answered, cell by cell. */
export function sheetIn(body: unknown): Sheet {
  const sheet = unpackSheet(body as SheetInColumns)
  return { ...sheet, cells: [...recordedCells(sheet)] }
}

/** The mark sheet of the demo, and the candidate numbers of one of its sections. */
export async function sheetOf(lead: Client, section: string): Promise<{ sheet: Sheet; numbers: string[] }> {
  const sheet = sheetIn((await lead('get', api('/sheet')).expect(200)).body)
  const { id } = sheet.sections.find((s) => s.name === section)!
  return { sheet, numbers: sheet.students.filter((s) => s.sectionId === id).map((s) => s.candidate) }
}
