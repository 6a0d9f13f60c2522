import { Plus } from 'lucide-react'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import {
  areAlike,
  changeAlike,
  criterionMaximum,
  makeAlike,
  mendRubric,
  resizeAlike,
  resizeRubric,
  rubricFindings,
  rubricMaximum,
  type RubricFix,
} from '#core/scales'
import type { Library, RubricBody, RubricCriterion } from '#contract'
import { NumberField } from '../../parts/NumberField'
import { numeral } from '../../parts/format'
import { Bands } from './Bands'
import { CriterionMaker } from './CriterionMaker'
import { MakerHead } from './MakerHead'
import { useMaker } from './useMaker'
import styles from './agree.module.css'

/** A rubric being made: each criterion a ruler whose stops are pulled, stepped or typed. */
export function RubricMaker({
  courseId,
  rubric,
  outcomes,
  onMoved,
}: {
  courseId: string
  rubric: Library['rubrics'][number]
  outcomes: Library['outcomes']
  onMoved: (id: string) => void
}) {
  const maker = useMaker<'rubric'>(
    courseId,
    {
      id: rubric.id,
      lineId: rubric.lineId,
      revision: rubric.revision,
      standard: { kind: 'rubric', title: rubric.title, body: bodyOf(rubric) },
    },
    onMoved,
  )
  const { body } = maker
  const [step, setStep] = useState(() => stepOf(rubric.criteria))
  const [comments, setComments] = useState(() => rubric.criteria.some((c) => c.levels.some((l) => l.comment)))
  const outOf = rubric.uses[0]?.outOf ?? null
  const findings = rubricFindings(body, outOf)
  const maximum = rubricMaximum(body)
  const longest = Math.max(1, ...body.criteria.map(criterionMaximum))
  const set = (next: RubricCriterion[], label: string) => maker.edit({ ...body, criteria: next }, label)
  const freeId = () => {
    const taken = new Set(body.criteria.map((c) => c.id))
    let n = body.criteria.length + 1
    while (taken.has(`c${n}`)) n++
    return `c${n}`
  }
  const put = (c: RubricCriterion, label: string) =>
    set(body.alike ? changeAlike(body.criteria, c) : body.criteria.map((x) => (x.id === c.id ? c : x)), label)
  const add = (c: RubricCriterion, label: string) => set(body.alike ? changeAlike(body.criteria, c) : [...body.criteria, c], label)
  const resize = (maximum: number) => {
    const resized = body.alike ? resizeAlike(body.criteria, maximum, step) : resizeRubric(body, maximum, step).criteria
    set(resized, `resize to ${numeral(maximum)}`)
  }
  const mend = (fix: RubricFix) => {
    const { criteria } = mendRubric(body, fix)
    const mended = fix.kind === 'resize all' ? undefined : criteria.find((c) => c.id === fix.criterionId)
    const all = body.alike && mended ? changeAlike(body.criteria, mended) : criteria
    maker.edit({ ...body, criteria: all, alike: (body.alike && areAlike(all)) || undefined }, 'mend a finding')
  }
  const move = (i: number, by: number) => {
    const to = i + by
    if (to < 0 || to >= body.criteria.length) return
    const next = [...body.criteria]
    next.splice(to, 0, ...next.splice(i, 1))
    set(next, 'reorder the criteria')
  }
  return (
    <>
      <MakerHead what="rubric" maker={maker}>
        rubric, version {rubric.version}, of{' '}
        <NumberField
          label="Points of the whole"
          className="short"
          value={maximum}
          min={1}
          max={10_000}
          onCommit={(m) => m !== null && resize(m)}
        />{' '}
        points{outOf !== null && outOf !== maximum && `, scaled to ${numeral(outOf)}`}
      </MakerHead>
      {findings.length > 0 && (
        <ul className={`findings ${styles.inline}`}>
          {findings.map((f) => (
            <li key={`${f.kind} ${f.criterionId}`}>
              <span className="finding">{f.message}</span>{' '}
              {f.fix && (
                <button className="quiet-button" onClick={() => mend(f.fix!)}>
                  {FIXES[f.fix.kind]}
                  {f.fix.kind === 'resize all' && ` ${numeral(f.fix.maximum)}`}
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      <div className="d-flex gap-4 small soft flex-wrap">
        <Form.Check
          id="kept-comments"
          label="with comments kept ready for each level"
          checked={comments}
          onChange={(e) => setComments(e.target.checked)}
        />
        <Form.Check
          id="best-first"
          label="shown from the best level down"
          checked={!!body.descending}
          onChange={(e) => maker.edit({ ...body, descending: e.target.checked || undefined }, 'which end comes first')}
        />
        {body.criteria.filter((c) => !c.penalty).length > 1 && (
          <Form.Check
            id="all-alike"
            label="criteria all alike"
            title="One set of levels: points, ranges and levels change in all criteria at once, each with its own words"
            checked={!!body.alike}
            onChange={(e) =>
              e.target.checked
                ? maker.edit({ ...body, criteria: makeAlike(body.criteria), alike: true }, 'criteria all alike')
                : maker.edit({ ...body, alike: undefined }, 'each criterion with its own levels')
            }
          />
        )}
        <label className={styles.stepsChoice} title="What pulled and resized points are multiples of; any other can be typed">
          points in steps of
          <Form.Select size="sm" aria-label="Points in steps of" value={step} onChange={(e) => setStep(Number(e.target.value))}>
            {STEPS.map((s) => (
              <option key={s} value={s}>
                {numeral(s)}
              </option>
            ))}
          </Form.Select>
        </label>
        {!body.bands?.length && (
          <button className="quiet-button" onClick={() => maker.edit({ ...body, bands: [{ from: 0, words: '' }] }, 'words for the whole')}>
            add words for the whole
          </button>
        )}
        {body.criteria.length === 1 && <span>One criterion: the work is judged as a whole.</span>}
      </div>
      <div className={styles.rulers}>
        {body.criteria.map((c, i) => (
          <CriterionMaker
            key={c.id}
            criterion={c}
            longest={longest}
            comments={comments}
            step={step}
            outcomes={outcomes}
            onChange={put}
            onDuplicate={() => {
              const copy = { ...c, id: freeId(), title: `${c.title} 2` }
              set([...body.criteria.slice(0, i + 1), copy, ...body.criteria.slice(i + 1)], `duplicate ${c.title}`)
            }}
            onRemove={() =>
              set(
                body.criteria.filter((x) => x.id !== c.id),
                `remove ${c.title}`,
              )
            }
            onMove={(by) => move(i, by)}
          />
        ))}
      </div>
      {!!body.bands?.length && (
        <Bands bands={body.bands} onChange={(next, label) => maker.edit({ ...body, bands: next.length > 0 ? next : undefined }, label)} />
      )}
      <Button
        variant="outline-primary"
        className="mt-3"
        onClick={() =>
          add(
            {
              id: freeId(),
              title: `Criterion ${body.criteria.length + 1}`,
              ranges: false,
              penalty: false,
              levels: [
                { points: 0, words: '' },
                { points: 4, words: '' },
              ],
            },
            'add a criterion',
          )
        }
      >
        <Plus size={15} aria-hidden /> Another criterion
      </Button>
    </>
  )
}

const bodyOf = ({ criteria, bands, descending, alike }: Library['rubrics'][number]): RubricBody => ({
  criteria,
  ...(bands ? { bands } : {}),
  ...(descending ? { descending } : {}),
  ...(alike ? { alike } : {}),
})

const STEPS = [1, 0.5, 0.25, 0.1]

/** The step that all points are in already: half points, or finer where some are. */
const stepOf = (criteria: readonly RubricCriterion[]): number => {
  const points = criteria.flatMap((c) => c.levels.flatMap((l) => [l.points, l.to ?? 0]))
  return STEPS.slice(1).find((s) => points.every((p) => Number.isInteger(Number((p / s).toFixed(6))))) ?? 0.1
}

const FIXES = {
  'add a zero level': 'add a level at 0',
  'sort the levels': 'put them in order',
  'drop the double': 'drop one of them',
  'end the range': 'end the range before it',
  'resize all': 'make the whole',
}
