import type { RefObject } from 'react'
import { chartSvg, takeOutPng, takeOutSvg, type ChartWords } from './chart-out'
import { useTaking } from './useTaking'

/** A single chart as a drawing or a picture. @param within where it is drawn */
export function ChartOut({ words, within }: { words: ChartWords; within: RefObject<HTMLElement | null> }) {
  const { taking, problem } = useTaking()
  const drawn = () => {
    const svg = within.current?.querySelector('svg')
    return chartSvg(words, svg ? [{ label: '', svg }] : [])
  }
  return (
    <span className="chart-out soft small">
      Take the chart out as{' '}
      <button className="quiet-button" aria-label="This chart as SVG" onClick={taking(() => takeOutSvg(words, drawn()))}>
        SVG
      </button>{' '}
      <button className="quiet-button" aria-label="This chart as PNG" onClick={taking(() => takeOutPng(words, drawn()))}>
        PNG
      </button>
      {problem}
    </span>
  )
}
