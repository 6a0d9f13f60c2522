import type { Change, CourseTable, Decision } from '#contract'

const KIND: Record<Change['kind'], Decision['kind']> = {
  settle: 'reconcile',
  adjust: 'rescale',
  switch: 'rescale',
  bound: 'bound',
  weigh: 'weights',
  assess: 'weights',
}

export function kindOf(changes: Change[]): Decision['kind'] {
  const kinds = new Set(changes.map((c) => KIND[c.kind]))
  return kinds.size === 1 ? [...kinds][0]! : 'several'
}

/** What a decision did, in words for the record. */
export function summarise(changes: Change[], table: Omit<CourseTable, 'head'>): string {
  const title = (id: string) => table.assessments.find((a) => a.id === id)?.title ?? table.components.find((c) => c.id === id)?.title ?? id
  const place = new Map(table.scripts.id.map((id, i) => [id, i]))
  const assessmentOf = (scriptId: string) => table.assessments[table.scripts.assessment[place.get(scriptId) ?? -1] ?? -1]?.id ?? ''
  const parts: string[] = []
  const settled = changes.filter((c) => c.kind === 'settle')
  if (settled.length > 0) {
    const rules = [
      ...new Set(
        settled.map((c) =>
          c.rule.kind === 'value' ? 'a mark of the lead’s own' : c.rule.kind === 'senior' ? 'one marker’s reading' : c.rule.kind,
        ),
      ),
    ]
    const of = [...new Set(settled.map((c) => title(assessmentOf(c.scriptId))))]
    parts.push(`${settled.length} ${settled.length === 1 ? 'script' : 'scripts'} of ${of.join(' and ')} settled by ${rules.join(', ')}`)
  }
  for (const c of changes) {
    if (c.kind === 'adjust') {
      const { method, assessmentId, sectionIds } = c.adjustment
      const where = sectionIds ? ` in ${sectionIds.map((s) => table.sections.find((x) => x.id === s)?.name ?? s).join(', ')}` : ''
      const how = {
        add: method.kind === 'add' ? `${method.by} added` : '',
        multiply: method.kind === 'multiply' ? `multiplied by ${method.by}` : '',
        topTo: method.kind === 'topTo' ? `top brought to ${method.to}` : '',
        line: 'put on a two-point line',
        curve: 'put on pulled points',
      }[method.kind]
      parts.push(`${title(assessmentId)}${where} ${how}`)
    } else if (c.kind === 'switch') {
      const adjusted = table.adjustments.find((a) => a.id === c.adjustmentId)
      parts.push(`an adjustment of ${adjusted ? title(adjusted.assessmentId) : 'an assessment'} switched ${c.on ? 'on' : 'off'}`)
    } else if (c.kind === 'bound') parts.push(`boundaries ${c.boundaries.map((b) => `${b.grade} ${b.from}`).join(', ')}`)
    else if (c.kind === 'weigh') parts.push(`${title(c.componentId)} weighs ${c.weight}`)
    else if (c.kind === 'assess') {
      const { worth, counts, bonus, droppable } = c.patch
      const said = [
        worth === undefined ? '' : `is worth ${worth}`,
        counts === undefined ? '' : counts ? 'counts' : 'does not count',
        bonus === undefined ? '' : bonus ? 'is a bonus' : 'is no bonus',
        droppable === undefined ? '' : droppable ? 'may be dropped' : 'may not be dropped',
      ].filter(Boolean)
      parts.push(`${title(c.assessmentId)} ${said.join(', ')}`)
    }
  }
  return parts.join('; ')
}
