import { strFromU8 } from 'fflate'

/** A sheet of a workbook (ISO/IEC 29500). */
export interface BookSheet {
  name: string
  hidden: boolean
  xml: string
}

/** The sheets of an unpacked workbook in their order. Where it does not say them, what looks like one is. */
export function bookSheets(files: ReadonlyMap<string, Uint8Array>): BookSheet[] {
  const text = (path: string) => (files.has(path) ? strFromU8(files.get(path)!) : '')
  const targets = new Map(
    elements(text('xl/_rels/workbook.xml.rels'), 'Relationship').map((r) => [
      attribute(r, 'Id'),
      attribute(r, 'Target').replace(/^\/?(xl\/)?/, 'xl/'),
    ]),
  )
  const said = elements(text('xl/workbook.xml'), 'sheet').flatMap((s) => {
    const xml = text(targets.get(attribute(s, '(?:\\w+:)?id')) ?? '')
    return xml === '' ? [] : [{ name: attribute(s, 'name'), hidden: /hidden/i.test(attribute(s, 'state')), xml }]
  })
  if (said.length > 0) return said
  const paths = [...files.keys()].filter((path) => /^xl\/worksheets\/sheet\d+\.xml$/.test(path))
  return paths.map((path) => ({ name: path, hidden: false, xml: text(path) }))
}

/** What a number alone does not say of its cell, by the cell’s place (“B2”): that it is shown as a percent, or which error it holds. */
export function cellKinds(files: ReadonlyMap<string, Uint8Array>, xml: string): ReadonlyMap<string, 'percent' | { error: string }> {
  const styles = files.has('xl/styles.xml') ? strFromU8(files.get('xl/styles.xml')!) : ''
  const percents = percentStyles(styles)
  const kinds = new Map<string, 'percent' | { error: string }>()
  for (const [, attributes = '', inside = ''] of xml.matchAll(/<c\b([^>]*?)(?:\/>|>(.*?)<\/c>)/gs)) {
    const type = attribute(attributes, 't')
    if (type === 'e') kinds.set(attribute(attributes, 'r'), { error: decoded(/<v>(.*?)<\/v>/s.exec(inside)?.[1] ?? '#ERROR') })
    else if ((type === '' || type === 'n') && percents.has(attribute(attributes, 's'))) kinds.set(attribute(attributes, 'r'), 'percent')
  }
  return kinds
}

/** Formats that every workbook knows without saying them. */
const PERCENT_FORMATS = ['9', '10']

/** Which styles of cells show a number as a percent. */
function percentStyles(xml: string): ReadonlySet<string> {
  const own = elements(xml, 'numFmt').flatMap((f) => (attribute(f, 'formatCode').replace(/"[^"]*"/g, '').includes('%') ? [attribute(f, 'numFmtId')] : [])) // prettier-ignore
  const formats = new Set([...PERCENT_FORMATS, ...own])
  const cellXfs = /<cellXfs\b.*?<\/cellXfs>/s.exec(xml)?.[0] ?? ''
  return new Set(elements(cellXfs, 'xf').flatMap((x, i) => (formats.has(attribute(x, 'numFmtId')) ? [String(i)] : [])))
}

/** The attributes of each element of a name, whatever its prefix. */
const elements = (xml: string, name: string): string[] =>
  [...xml.matchAll(new RegExp(`<(?:\\w+:)?${name}\\b([^>]*)>`, 'g'))].map(([, attributes]) => attributes!)

const attribute = (attributes: string, name: string): string =>
  decoded(new RegExp(`(?:^|\\s)${name}="([^"]*)"`).exec(attributes)?.[1] ?? '')

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }
const decoded = (text: string): string =>
  text.replace(/&(?:#x([\da-f]{1,6})|#(\d{1,7})|(\w+));/gi, (whole, hex?: string, decimal?: string, name?: string) => {
    const code = hex ? parseInt(hex, 16) : Number(decimal)
    return name ? (ENTITIES[name] ?? whole) : code <= 0x10ffff ? String.fromCodePoint(code) : whole
  })
