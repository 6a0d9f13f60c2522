import { routes, type Library } from '#contract'
import type { Db } from '../../db/open'
import type { Handle } from '../../http'

export function scaleRoutes(handle: Handle, db: Db): void {
  const standards = db.prepare<[], { id: string; kind: string; title: string; owner: string; version: number; body: string }>(
    `SELECT s.id, s.kind, s.title, p.name AS owner, s.version, s.body FROM standard s JOIN person p ON p.id = s.owner_id
     WHERE NOT EXISTS (SELECT 1 FROM standard n WHERE n.follows = s.id) ORDER BY s.title`,
  )
  const uses = db.prepare<[string], { course: string; assessment: string }>(
    `SELECT c.code || ' ' || c.term AS course, a.title AS assessment FROM assessment a JOIN course c ON c.id = a.course_id
     WHERE a.standard_id = ? ORDER BY c.first_day DESC, c.code, a.position`,
  )

  handle(routes.library, () => {
    const library: Library = { rubrics: [], schemes: [], scales: [] }
    for (const { kind, body, ...head } of standards.all()) {
      const entry = { ...head, uses: uses.all(head.id), ...(JSON.parse(body) as object) }
      if (kind === 'rubric') library.rubrics.push(entry as Library['rubrics'][number])
      if (kind === 'scheme') library.schemes.push(entry as Library['schemes'][number])
      if (kind === 'scale') library.scales.push(entry as Library['scales'][number])
    }
    return library
  })
}
