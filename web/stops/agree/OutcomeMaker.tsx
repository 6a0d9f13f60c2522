import { Plus, Trash2 } from 'lucide-react'
import { Button, Form } from 'react-bootstrap'
import type { Library, OutcomeBody } from '#contract'
import { TitleField } from '../../parts/TitleField'
import { MakerHead } from './MakerHead'
import { RuleFields } from './RuleFields'
import { useMaker } from './useMaker'
import { WordsField } from './WordsField'
import styles from './agree.module.css'

/** An outcome being made: what students should be able to do, its levels, which of them counts as reached, and the rule that decides. */
export function OutcomeMaker({
  courseId,
  outcome,
  onMoved,
}: {
  courseId: string
  outcome: Library['outcomes'][number]
  onMoved: (id: string) => void
}) {
  const { statement, levels, reached, rule, group } = outcome
  const maker = useMaker<'outcome'>(
    courseId,
    {
      id: outcome.id,
      lineId: outcome.lineId,
      revision: outcome.revision,
      standard: { kind: 'outcome', title: outcome.title, body: { statement, levels, reached, rule, ...(group && { group }) } },
    },
    onMoved,
  )
  const { body } = maker
  const set = (patch: Partial<OutcomeBody>, label: string) => maker.edit({ ...body, ...patch }, label)
  const setLevel = (i: number, patch: Partial<OutcomeBody['levels'][number]>, label: string) =>
    set({ levels: body.levels.map((l, at) => (at === i ? { ...l, ...patch } : l)) }, label)
  return (
    <>
      <MakerHead what="outcome" maker={maker}>
        outcome, its short name above
      </MakerHead>
      <div style={{ maxWidth: 760 }}>
        <WordsField
          label="What students should be able to do"
          value={body.statement}
          placeholder="what students should be able to do, as a sentence"
          onCommit={(words) => set({ statement: words }, 'the statement')}
        />
        <div className="d-flex gap-2 align-items-baseline mt-2">
          <span className="soft small text-nowrap">stands in the group</span>
          <TitleField
            label="Group of the outcome, those around it before it, with › between"
            value={(body.group ?? []).join(' › ')}
            placeholder="none; “Field work › Levelling” is one in another"
            optional
            disabled={false}
            onCommit={(path) => set({ group: groupIn(path) }, 'its group')}
          />
        </div>
        <table className="grid mt-3">
          <thead>
            <tr>
              <th>reached</th>
              <th>level</th>
              <th>what it looks like</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {body.levels
              .map((l, i) => ({ l, i }))
              .reverse()
              .map(({ l, i }) => (
                <tr key={i}>
                  <td style={{ width: 80 }}>
                    <Form.Check
                      type="radio"
                      name="reached"
                      id={`reached-${i}`}
                      aria-label={`${l.label} counts as reached`}
                      checked={body.reached === i + 1}
                      label={i + 1 > body.reached ? <span className="soft small">too</span> : ''}
                      onChange={() => set({ reached: i + 1 }, `${l.label} counts as reached`)}
                    />
                  </td>
                  <td style={{ width: 180 }}>
                    <TitleField
                      label={`Name of level ${i + 1}`}
                      value={l.label}
                      disabled={false}
                      onCommit={(label) => setLevel(i, { label }, 'rename a level')}
                    />
                  </td>
                  <td>
                    <WordsField
                      label={`Words of level ${i + 1}`}
                      value={l.words}
                      placeholder="what this level looks like"
                      onCommit={(words) => setLevel(i, { words }, `words of ${l.label}`)}
                    />
                  </td>
                  <td>
                    {body.levels.length > 2 && (
                      <button
                        className={styles.quietIcon}
                        aria-label={`Remove ${l.label}`}
                        onClick={() =>
                          set(
                            {
                              levels: body.levels.filter((_, at) => at !== i),
                              reached: Math.min(body.reached > i + 1 ? body.reached - 1 : body.reached, body.levels.length - 1),
                            },
                            `remove ${l.label}`,
                          )
                        }
                      >
                        <Trash2 size={14} aria-hidden />
                      </button>
                    )}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
        <Button
          size="sm"
          variant="outline-primary"
          className="mt-2"
          onClick={() => set({ levels: [...body.levels, { label: `level ${body.levels.length + 1}`, words: '' }] }, 'add a level')}
        >
          <Plus size={15} aria-hidden /> Another level on top
        </Button>
        <Form.Group controlId="outcome-rule" className="mt-3">
          <Form.Label className="soft small mb-0">Where a student stands after several results</Form.Label>
          <RuleFields rule={body.rule} onRule={(rule, label) => set({ rule }, label)} />
        </Form.Group>
      </div>
    </>
  )
}

/** A path of groups as it is typed; > does for ›. */
function groupIn(path: string): string[] | undefined {
  const parts = path
    .split(/[›>]/)
    .map((part) => part.trim())
    .filter((part) => part !== '')
  return parts.length > 0 ? parts.slice(0, 6) : undefined
}
