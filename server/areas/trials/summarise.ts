import type { Change, CourseTable, Decision, Policy } from '#contract'

const KIND: Record<Change['kind'], Decision['kind']> = {
  settle: 'reconcile',
  adjust: 'rescale',
  switch: 'rescale',
  bound: 'bound',
  weigh: 'weights',
  shape: 'weights',
  assess: 'weights',
  'take away': 'plan',
  exclude: 'plan',
  policy: 'plan',
  carry: 'reconcile',
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
  for (const out of [true, false]) {
    const excluded = changes.flatMap((c) => (c.kind === 'exclude' && c.out === out ? [c] : []))
    for (const id of new Set(excluded.map((c) => c.assessmentId))) {
      const n = excluded.filter((c) => c.assessmentId === id).length
      parts.push(`${n} ${n === 1 ? 'student' : 'students'} ${out ? 'left out of' : 'taken back into'} ${title(id)}`)
    }
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
    else if (c.kind === 'shape') parts.push(`${title(c.componentId)} ${shapeWords(c.patch).join(', ')}`)
    else if (c.kind === 'carry')
      parts.push(
        `${c.readings.length} ${c.readings.length === 1 ? 'reading' : 'readings'} of ${title(c.assessmentId)} carried over to another version`,
      )
    else if (c.kind === 'take away') parts.push(`${title(c.assessmentId)} taken away`)
    else if (c.kind === 'policy') parts.push(`policies: ${policyWords(c.policy).join(', ')}`)
    else if (c.kind === 'assess') {
      const { worth, counts, bonus, droppable, componentId } = c.patch
      const said = [
        worth === undefined ? '' : `is worth ${worth}`,
        counts === undefined ? '' : counts ? 'counts' : 'does not count',
        bonus === undefined ? '' : bonus ? 'is a bonus' : 'is no bonus',
        droppable === undefined ? '' : droppable ? 'may be dropped' : 'may not be dropped',
        componentId === undefined ? '' : `moves to ${title(componentId)}`,
      ].filter(Boolean)
      parts.push(`${title(c.assessmentId)} ${said.join(', ')}`)
    }
  }
  return parts.join('; ')
}

const shapeWords = ({ combine, dropLowest, bonus }: Extract<Change, { kind: 'shape' }>['patch']) =>
  [
    combine === undefined ? '' : combine === 'equally' ? 'counts all alike' : 'counts by worth',
    dropLowest === undefined ? '' : dropLowest === 0 ? 'drops none' : `drops the worst ${dropLowest === 1 ? 'one' : dropLowest}`,
    bonus === undefined ? '' : bonus ? 'is a bonus' : 'is no bonus',
  ].filter(Boolean)

const policyWords = ({ missing, absent, late, rounding, above100 }: Policy) => [
  `missing ${missing.kind === 'floor' ? `counts ${missing.percent}%` : missing.kind === 'zero' ? 'counts nothing' : 'is pending'}`,
  `absent ${absent.kind === 'zero' ? 'counts nothing' : absent.kind}`,
  `late ${late.kind === 'none' ? 'costs nothing' : late.kind === 'cap' ? `at most ${late.percent}%` : `costs ${late.percent}% a day`}`,
  rounding ? `rounded to ${rounding.decimals} decimals` : 'not rounded',
  above100 === 'cap' ? 'at most 100' : 'above 100 allowed',
]
