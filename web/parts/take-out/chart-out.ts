import { fileName, handOver } from './hand-over'

/** What is said above a chart that is taken out. */
export interface ChartWords {
  title: string
  /** Day, and how many it is about. */
  under: string
}

const NS = 'http://www.w3.org/2000/svg'
const LABEL = 150
const HEAD = 56
/** What a drawing is painted by on the page, written into it so that it stands by itself. */
const PAINT = ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'opacity', 'font-size', 'font-weight', 'text-anchor'] as const
/** So many dots an inch of paper. */
const SHARP = 2

/** The drawings of a chart under each other, each with what its row is called, as one drawing that needs nothing beside it. */
export function chartSvg({ title, under }: ChartWords, drawings: readonly { label: string; svg: SVGSVGElement }[]): string {
  const sizes = drawings.map(({ svg }) => svg.getBoundingClientRect())
  const labelled = drawings.some((d) => d.label !== '')
  const left = labelled ? LABEL : 16
  const width = left + Math.max(320, ...sizes.map((s) => s.width)) + 16
  const height = HEAD + sizes.reduce((sum, s) => sum + s.height, 0) + 16
  const out = document.createElementNS(NS, 'svg')
  out.setAttribute('xmlns', NS)
  out.setAttribute('width', String(width))
  out.setAttribute('height', String(height))
  out.setAttribute('viewBox', `0 0 ${width} ${height}`)
  out.setAttribute('font-family', 'Source Sans 3, sans-serif')
  const ink = colourOf('--ink')
  const put = (name: string, at: Record<string, string | number>, text?: string) => {
    const element = document.createElementNS(NS, name)
    for (const [key, value] of Object.entries(at)) element.setAttribute(key, String(value))
    if (text !== undefined) element.textContent = text
    return out.appendChild(element)
  }
  put('rect', { width, height, fill: colourOf('--sheet') })
  put('text', { x: 16, y: 26, fill: ink, 'font-size': 17, 'font-weight': 600 }, title)
  put('text', { x: 16, y: 44, fill: colourOf('--soft-ink'), 'font-size': 12 }, under)
  let y = HEAD
  drawings.forEach(({ label, svg }, i) => {
    if (label !== '') put('text', { x: 16, y: y + sizes[i]!.height / 2 + 4, fill: ink, 'font-size': 13 }, label)
    const copy = svg.cloneNode(true) as SVGSVGElement
    paint(svg, copy)
    copy.setAttribute('x', String(left))
    copy.setAttribute('y', String(y))
    copy.setAttribute('width', String(sizes[i]!.width))
    copy.setAttribute('height', String(sizes[i]!.height))
    out.appendChild(copy)
    y += sizes[i]!.height
  })
  return new XMLSerializer().serializeToString(out)
}

/** What a token of the theme is here and now: a file knows no tokens. */
function colourOf(token: string): string {
  const probe = document.body.appendChild(document.createElement('i'))
  probe.style.color = `var(${token})`
  const { color } = getComputedStyle(probe)
  probe.remove()
  return color
}

function paint(shown: Element, copy: Element): void {
  const style = getComputedStyle(shown)
  for (const property of PAINT) {
    const value = style.getPropertyValue(property)
    if (value !== '') copy.setAttribute(property, value)
  }
  copy.removeAttribute('style')
  copy.removeAttribute('class')
  for (const [i, child] of [...shown.children].entries()) paint(child, copy.children[i]!)
}

export const takeOutSvg = (words: ChartWords, svg: string): void =>
  handOver(fileName(words.title, 'svg'), new Blob([svg], { type: 'image/svg+xml' }))

export async function takeOutPng(words: ChartWords, svg: string): Promise<void> {
  const image = new Image()
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`
  await image.decode()
  const canvas = document.createElement('canvas')
  canvas.width = image.naturalWidth * SHARP
  canvas.height = image.naturalHeight * SHARP
  const draw = canvas.getContext('2d')!
  draw.scale(SHARP, SHARP)
  draw.drawImage(image, 0, 0)
  const png = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'))
  if (png) handOver(fileName(words.title, 'png'), png)
}
