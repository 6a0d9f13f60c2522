import { Plus, Trash2 } from 'lucide-react'
import { Button } from 'react-bootstrap'
import { checkScale, halfwayThresholds } from '#core/scales'
import type { Library } from '#contract'
import { useCourseSoFar } from '../../course/course'
import { NumberField } from '../../parts/NumberField'
import { BeginFrom } from './BeginFrom'
import { ScaleAxis } from './ScaleAxis'
import { TitleField } from '../../parts/TitleField'
import { MakerHead } from './MakerHead'
import { useMaker } from './useMaker'
import styles from './agree.module.css'

type Label = Library['scales'][number]['labels'][number]

/** A scale being made: labels against percents on one axis, pulled, stepped or typed; uneven as it may be. */
export function ScaleMaker({
  courseId,
  scale,
  onMoved,
}: {
  courseId: string
  scale: Library['scales'][number]
  onMoved: (id: string) => void
}) {
  const maker = useMaker<'scale'>(
    courseId,
    {
      id: scale.id,
      lineId: scale.lineId,
      revision: scale.revision,
      standard: { kind: 'scale', title: scale.title, body: { labels: scale.labels } },
    },
    onMoved,
  )
  const { course } = useCourseSoFar()
  const { labels } = maker.body
  const findings = checkScale({ labels })
  const put = (i: number, patch: Partial<Label>, words: string) =>
    maker.edit({ labels: labels.map((l, at) => (at === i ? { ...l, ...patch } : l)) }, words)
  const add = () => {
    const last = labels.at(-1)
    const percent = last ? Math.min(100, last.percent + 5) : 50
    const label = `label ${labels.length + 1}`
    maker.edit({ labels: [...labels, { label, percent, threshold: last ? (last.percent + percent) / 2 : 0 }] }, 'add a label')
  }
  return (
    <>
      <MakerHead what="scale" maker={maker}>
        scale, version {scale.version}
      </MakerHead>
      {findings.length > 0 && (
        <ul className={`findings ${styles.inline}`}>
          {findings.map((f, i) => (
            <li key={i}>
              <span className="finding">{f.message}</span>{' '}
              {f.mended && (
                <button className="quiet-button" onClick={() => maker.edit(f.mended!, 'mend the scale')}>
                  mend it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      <ScaleAxis title={maker.title} labels={labels} bare onPull={(i, percent) => put(i, { percent }, `move ${labels[i]!.label}`)} />
      <table className="grid mt-2" style={{ maxWidth: 560 }}>
        <thead>
          <tr>
            <th>label</th>
            <th className="number">stands for %</th>
            <th className="number">read back from %</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {labels
            .map((l, i) => ({ l, i }))
            .reverse()
            .map(({ l, i }) => (
              <tr key={i}>
                <td>
                  <TitleField
                    label={`Name of label ${i + 1}`}
                    value={l.label}
                    disabled={false}
                    onCommit={(label) => put(i, { label }, 'rename a label')}
                  />
                </td>
                <td>
                  <NumberField
                    label={`Percent of ${l.label}`}
                    value={l.percent}
                    min={0}
                    max={100}
                    onCommit={(percent) => percent !== null && put(i, { percent }, `percent of ${l.label}`)}
                  />
                </td>
                <td>
                  <NumberField
                    label={`${l.label} is read back from`}
                    value={l.threshold}
                    min={0}
                    max={100}
                    onCommit={(threshold) => threshold !== null && put(i, { threshold }, `threshold of ${l.label}`)}
                  />
                </td>
                <td>
                  <button
                    className={styles.quietIcon}
                    aria-label={`Remove ${l.label}`}
                    onClick={() => maker.edit({ labels: labels.filter((_, at) => at !== i) }, `remove ${l.label}`)}
                  >
                    <Trash2 size={14} aria-hidden />
                  </button>
                </td>
              </tr>
            ))}
        </tbody>
      </table>
      <div className="buttons mt-3">
        <Button variant="outline-primary" onClick={add}>
          <Plus size={15} aria-hidden /> Another label
        </Button>
        <Button variant="link" onClick={() => maker.edit(halfwayThresholds({ labels }), 'thresholds halfway')}>
          Read back halfway between neighbours
        </Button>
      </div>
      <BeginFrom boundaries={course?.table.boundaries ?? []} onBegin={(body, what) => maker.edit(body, `begin from ${what}`)} />
    </>
  )
}
