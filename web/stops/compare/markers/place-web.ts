import { forceCenter, forceCollide, forceLink, forceManyBody, forceSimulation, forceX, forceY } from 'd3-force'

export interface Placed {
  id: string
  x: number
  y: number
}

interface Link {
  a: string
  b: string
  scripts: number
}

/** Steps after which nothing moves any more to the eye. */
const STEPS = 240
const EDGE = 26

/**
 * Places markers so that those who share many scripts stand near each other, and groups that share none stand apart; the same every time.
 * @param groups the largest first; each is placed by itself, the small ones along the lower edge
 */
export function placeWeb(groups: readonly (readonly string[])[], links: readonly Link[], width: number, height: number): Placed[] {
  const [largest = [], ...others] = groups
  const low = others.length > 0 ? 70 : 0
  const placed = placeGroup(largest, links, { left: 0, top: 0, width, height: height - low })
  const share = width / Math.max(1, others.length)
  return [
    ...placed,
    ...others.flatMap((group, i) => placeGroup(group, links, { left: i * share, top: height - low, width: share, height: low })),
  ]
}

interface Box {
  left: number
  top: number
  width: number
  height: number
}

function placeGroup(ids: readonly string[], links: readonly Link[], box: Box): Placed[] {
  const round = (i: number) => (2 * Math.PI * i) / ids.length
  const nodes = ids.map((id, i) => ({
    id,
    x: box.width / 2 + (box.width / 3) * Math.cos(round(i)),
    y: box.height / 2 + (box.height / 3) * Math.sin(round(i)),
  }))
  const own = new Set(ids)
  const most = Math.max(1, ...links.map((l) => l.scripts))
  forceSimulation(nodes)
    .force(
      'link',
      forceLink(links.filter((l) => own.has(l.a) && own.has(l.b)).map((l) => ({ source: l.a, target: l.b, scripts: l.scripts })))
        .id((n) => (n as { id?: string }).id ?? '')
        .distance((l) => 110 - (60 * (l as unknown as Link).scripts) / most),
    )
    .force('apart', forceManyBody().strength(-260))
    .force('room', forceCollide(30))
    .force('middle', forceCenter(box.width / 2, box.height / 2))
    .force('x', forceX(box.width / 2).strength(0.04))
    .force('y', forceY(box.height / 2).strength(0.09))
    .stop()
    .tick(STEPS)
  const within = (v: number, size: number) => Math.max(EDGE, Math.min(size - EDGE, v))
  return nodes.map((n) => ({ id: n.id, x: box.left + within(n.x, box.width), y: box.top + within(n.y, box.height) }))
}
