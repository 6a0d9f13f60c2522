import { useState, type RefObject } from 'react'
import { Dropdown } from 'react-bootstrap'
import { messageOf } from '../../api/client'
import { takeOutCsv, takeOutWorkbook, type TableOut } from './table-out'
import { chartSvg, takeOutPng, takeOutSvg, type ChartWords } from './chart-out'

interface Props {
  table: TableOut
  /** What is drawn: each drawing in it is taken out under the name that its row carries as `data-drawn`. */
  chart?: { words: ChartWords; within: RefObject<HTMLElement | null> }
}

/** Takes a table out as a file, and the chart beside it as a drawing or a picture; or prints the page as it stands. */
export function TakeOut({ table, chart }: Props) {
  const [problem, setProblem] = useState<string | null>(null)
  const doing = (work: () => Promise<void> | void) => () => {
    setProblem(null)
    void Promise.resolve()
      .then(work)
      .catch((e: unknown) => setProblem(messageOf(e)))
  }
  const drawn = () =>
    chartSvg(
      chart!.words,
      [...(chart!.within.current?.querySelectorAll<HTMLElement>('[data-drawn]') ?? [])].flatMap((row) => {
        const svg = row.querySelector('svg')
        return svg ? [{ label: row.dataset.drawn!, svg }] : []
      }),
    )
  return (
    <Dropdown align="end">
      <Dropdown.Toggle size="sm" variant="link">
        Take it out
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.Item onClick={doing(() => takeOutCsv(table))}>Table as CSV</Dropdown.Item>
        <Dropdown.Item onClick={doing(() => takeOutWorkbook(table))}>Table as XLSX</Dropdown.Item>
        {chart && <Dropdown.Item onClick={doing(() => takeOutSvg(chart.words, drawn()))}>Chart as SVG</Dropdown.Item>}
        {chart && <Dropdown.Item onClick={doing(() => takeOutPng(chart.words, drawn()))}>Chart as PNG</Dropdown.Item>}
        <Dropdown.Item onClick={() => window.print()}>Print</Dropdown.Item>
      </Dropdown.Menu>
      {problem && (
        <p className="note bad small" role="alert">
          {problem}
        </p>
      )}
    </Dropdown>
  )
}
