import type { ReactNode } from 'react'
import { methodOf, type AdjustmentMethod, type MethodKind } from '#core/rescale'
import { numeral, signed } from '../../../parts/format'
import { OneNumber } from './OneNumber'
import { Points } from './Points'

interface FormProps<M> {
  method: M
  outOf: number
  chosen: number
  onChoose: (at: number) => void
  onMethod: (method: AdjustmentMethod) => void
}

/** How a method is typed, and what it is in words where it stands in the stack. */
interface Form<M> {
  form: (props: FormProps<M>) => ReactNode
  inWords: (method: M) => string
}
type Of<K extends MethodKind> = Extract<AdjustmentMethod, { kind: K }>

const pulled = ({ method, outOf, chosen, onChoose, onMethod }: FormProps<AdjustmentMethod>) => {
  const { points } = methodOf(method.kind)
  return (
    points && (
      <Points
        points={points.of(method)}
        outOf={outOf}
        chosen={chosen}
        onChoose={onChoose}
        onPoints={(put) => onMethod(points.put(method, put))}
      />
    )
  )
}

const FORMS: { [K in MethodKind]: Form<Of<K>> } = {
  add: {
    form: ({ method, outOf, onMethod }) => (
      <OneNumber
        words="marks to add"
        value={method.by}
        step={0.5}
        min={-outOf}
        max={outOf * 2}
        onCommit={(by) => onMethod({ ...method, by })}
      />
    ),
    inWords: ({ by }) => `, ${signed(by)}`,
  },
  multiply: {
    form: ({ method, outOf, onMethod }) => (
      <OneNumber words="multiply by" value={method.by} step={0.01} min={0} max={outOf * 2} onCommit={(by) => onMethod({ ...method, by })} />
    ),
    inWords: ({ by }) => ` by ${numeral(by)}`,
  },
  topTo: {
    form: ({ method, outOf, onMethod }) => (
      <OneNumber
        words="the highest mark becomes"
        value={method.to}
        step={0.5}
        min={0}
        max={outOf * 2}
        onCommit={(to) => onMethod({ ...method, to })}
      />
    ),
    inWords: ({ to }) => ` ${numeral(to)}`,
  },
  line: { form: pulled, inWords: () => '' },
  curve: { form: pulled, inWords: () => '' },
}

const formOf = (kind: MethodKind) => FORMS[kind] as unknown as Form<AdjustmentMethod>

/** Every number of a method, typed. */
export const MethodForm = (props: FormProps<AdjustmentMethod>) => formOf(props.method.kind).form(props)

/** A method with its number, in words. */
export const methodInWords = (method: AdjustmentMethod): string => `${methodOf(method.kind).title}${formOf(method.kind).inWords(method)}`
