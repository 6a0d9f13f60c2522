import { writeDelimited } from '#core/exchange/write-delimited'
import { writeSheets, type ColumnKind } from '#core/exchange/workbook'
import { decimalsInWords } from '#core/grades'
import { countedMark, issuedMark } from '#core/issues'
import type { IssueContent, IssueHead } from '#contract'

type Row = (string | number)[]
type Head = Pick<IssueHead, 'hash' | 'signatures' | 'objections' | 'at'>

const figure = (x: number | null | undefined) => (x === null || x === undefined ? '' : Number(x.toFixed(3)))

function rowsOf(content: IssueContent, { hash }: Head): { head: string[]; kinds: ColumnKind[]; rows: Row[] } {
  const { assessments = [], conditions = [] } = content
  const rescaled = content.results.some((r) => r.adjusted !== undefined)
  const columns: [name: string, kind: ColumnKind][] = [
    ['candidate', 'text'],
    ['name', 'text'],
    ['section', 'text'],
    ...assessments.flatMap((a): typeof columns => [
      [a.title, 'mark'],
      [`${a.title}: as marked`, 'mark'],
      [`${a.title}: by rescaling`, 'mark'],
      [`${a.title}: for lateness`, 'mark'],
      [`${a.title}: status`, 'text'],
    ]),
    ...content.components.map((c): (typeof columns)[number] => [`${c.title} %`, 'percent']),
    ['course %', 'percent'],
    ...(rescaled ? ([['course %, rescaled', 'percent']] satisfies typeof columns) : []),
    ['rounded', 'percent'],
    ['grade', 'text'],
    ['held back by', 'text'],
    ['chance of the grade', 'mark'],
    ['pending', 'mark'],
    ['issue', 'mark'],
    ['content hash', 'text'],
  ]
  const rows = content.results.map((r): Row => [
    r.candidate,
    r.name,
    r.section,
    ...assessments.flatMap((_, i): Row => {
      const m = issuedMark(r.marks?.[i] ?? null)
      if (!m) return ['', '', '', '', '']
      const { counts, marked, rescaled, late } = countedMark(m, assessments[i]!.outOf, content.policy)
      const status = m.status === 'in' ? '' : m.status === 'late' ? `late, ${m.daysLate}` : m.status
      return [figure(counts), figure(marked), figure(rescaled || null), figure(late || null), status]
    }),
    ...r.components.map((c) => figure(c.percent)),
    figure(r.final),
    ...(rescaled ? [figure(r.adjusted)] : []),
    r.rounded ?? '',
    r.grade ?? '',
    (r.heldBy ?? []).map((at) => conditionWords(conditions[at]!)).join('; '),
    r.chance ?? '',
    r.pending,
    content.number,
    hash,
  ])
  return { head: columns.map(([name]) => name), kinds: columns.map(([, kind]) => kind), rows }
}

const conditionWords = (c: NonNullable<IssueContent['conditions']>[number]) => `${c.on} at least ${c.least}%, else at most ${c.atMost}`

/** RFC 4180 with BOM; a text that a spreadsheet would run as a formula is kept a text. */
export function resultsCsv(content: IssueContent, issue: Head): string {
  const { head, rows } = rowsOf(content, issue)
  return writeDelimited([head, ...rows])
}

/** The results, and sheets for all that they came about by. */
export function resultsXlsx(content: IssueContent, issue: Head): Promise<Uint8Array> {
  const { head, kinds, rows } = rowsOf(content, issue)
  const { assessments = [], conditions = [], adjustments = [], decisions = [], policy, course } = content
  return writeSheets([
    { title: `Issue ${content.number}`, header: head, rows, kinds, held: 2 },
    {
      title: 'How',
      header: ['what', 'value'],
      rows: [
        ['course', `${course.code} ${course.title}, ${course.term}`],
        ['issue', content.number],
        ['frozen', issue.at],
        ['content hash, SHA-256', issue.hash],
        ['missing work', policy.missing.kind === 'floor' ? `${policy.missing.percent}%` : policy.missing.kind],
        ['absent', policy.absent.kind],
        [
          'late work',
          policy.late.kind === 'none' ? 'costs nothing' : `${policy.late.kind === 'cap' ? 'at most' : 'a day'} ${policy.late.percent}%`,
        ],
        ['rounding', policy.rounding ? `${decimalsInWords(policy.rounding.decimals)}, half up` : 'none'],
        ['above 100', policy.above100 === 'cap' ? 'counts as 100' : 'allowed'],
      ],
    },
    {
      title: 'Plan',
      header: ['component', 'weight', 'assessment', 'marked out of', 'worth', 'counts', 'bonus'],
      rows: content.components.flatMap((c): Row[] => {
        const own = assessments.filter((a) => a.component === c.title)
        return own.length === 0
          ? [[c.title, c.weight ?? '', '', '', '', '', '']]
          : own.map((a) => [c.title, c.weight ?? '', a.title, a.outOf, a.worth ?? '', a.counts ? 'yes' : 'no', a.bonus ? 'yes' : 'no'])
      }),
    },
    { title: 'Rescaling', header: ['in order'], rows: adjustments.map((a) => [a]) },
    {
      title: 'Boundaries',
      header: ['grade', 'begins at', 'asks for'],
      rows: content.boundaries.map((b, i) => {
        // What a grade asks for is what stops at one below it.
        const asked = conditions.filter((c) => content.boundaries.findIndex((x) => x.grade === c.atMost) > i)
        return [b.grade, b.from, asked.map((c) => `${c.least}% in ${c.on}`).join('; ')]
      }),
    },
    {
      title: 'Decisions',
      header: ['when', 'who', 'what', 'why'],
      rows: decisions.map((d) => [d.at, d.by, d.summary, d.reason]),
    },
    {
      title: 'Signatures',
      header: ['when', 'who', 'as', 'words', 'for the content'],
      rows: [
        ...issue.signatures.map((s): Row => [s.at, s.by, s.role, s.statement, s.hash]),
        ...issue.objections.map((o): Row => [
          o.at,
          o.by,
          o.role,
          `objects: ${o.reason}${o.takenBack ? `; taken back ${o.takenBack}` : ''}`,
          issue.hash,
        ]),
      ],
    },
  ])
}
