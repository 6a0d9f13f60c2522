import type { ReactNode } from 'react'
import { markMethodOf, type MarkKind, type MethodKind, type OfKind } from '#core/rescale'
import { CriteriaForm } from './CriteriaForm'
import type { FormProps } from './form-props'
import { LeanForm } from './LeanForm'
import { MatchForm } from './MatchForm'
import { OneNumber } from './OneNumber'
import { Points } from './Points'
import { numeral } from '../../../parts/format'

type MethodFormProps<K extends MethodKind> = FormProps & { method: OfKind<K> }
type Form<K extends MethodKind> = (props: MethodFormProps<K>) => ReactNode

function Pulled({ method, figures, rescaling, point, onPoint }: MethodFormProps<'line' | 'curve'>) {
  const { points } = markMethodOf(method.kind as MarkKind)
  return (
    points && (
      <Points
        points={points.read(method)}
        outOf={figures.subject.outOf}
        chosen={point}
        onChoose={onPoint}
        onPoints={(put) => rescaling.setMethod(points.put(method, put))}
        onBroughtIn={(put) => rescaling.start('curve', { kind: 'curve', points: put })}
      />
    )
  )
}

/** How each way is typed. */
const FORMS: { [K in MethodKind]: Form<K> } = {
  add: ({ method, figures: { subject }, rescaling }) => (
    <OneNumber
      words={subject.assessmentId === null ? 'percents to add' : 'marks to add'}
      value={method.by}
      step={0.5}
      min={-subject.outOf}
      max={subject.outOf * 2}
      onCommit={(by) => rescaling.setMethod({ ...method, by })}
    />
  ),
  multiply: ({ method, figures: { subject }, rescaling }) => (
    <OneNumber
      words="multiply by"
      value={method.by}
      step={0.01}
      min={0}
      max={subject.outOf * 2}
      onCommit={(by) => rescaling.setMethod({ ...method, by })}
    />
  ),
  topTo: ({ method, figures: { subject }, rescaling }) => (
    <OneNumber
      words={subject.assessmentId === null ? 'the highest percent becomes' : 'the highest mark becomes'}
      value={method.to}
      step={0.5}
      min={0}
      max={subject.outOf * 2}
      onCommit={(to) => rescaling.setMethod({ ...method, to })}
    />
  ),
  line: (props) => <Pulled {...props} />,
  curve: (props) => <Pulled {...props} />,
  matchMeanSd: (props) => <MatchForm {...props} />,
  matchDistribution: (props) => <MatchForm {...props} />,
  anotherMaximum: ({ method, figures: { subject }, rescaling }) => (
    <OneNumber
      words={`marks were given out of, instead of ${numeral(subject.outOf)}`}
      value={method.from}
      step={1}
      min={0.001}
      max={10_000}
      onCommit={(from) => rescaling.setMethod({ ...method, from, to: subject.outOf })}
    />
  ),
  markerEffect: (props) => <LeanForm {...props} />,
  without: (props) => <CriteriaForm {...props} kind="without" />,
  grant: (props) => <CriteriaForm {...props} kind="grant" />,
}

/** Every figure of a way, typed; of one that is chosen and not tried yet, what has to be said first. */
export function MethodForm({ kind, ...props }: FormProps & { kind: MethodKind }) {
  const { chosen } = props.rescaling
  const method = chosen?.method.kind === kind ? chosen.method : null
  if (!method && kind !== 'without' && kind !== 'grant') return null
  const Shown = FORMS[kind] as (props: FormProps & { method: unknown }) => ReactNode
  return <Shown {...props} method={method} />
}
