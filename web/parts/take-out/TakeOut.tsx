import type { RefObject } from 'react'
import { Dropdown } from 'react-bootstrap'
import { takeOutCsv, takeOutWorkbook, type TableOut } from './table-out'
import { chartSvg, takeOutPng, takeOutSvg, type ChartWords } from './chart-out'
import { useTaking } from './useTaking'

interface Props {
  /** Made when it is asked for: it may have thousands of rows. */
  table: () => TableOut
  /** What is drawn: each drawing in it is taken out under the name that its row carries as `data-drawn`. */
  chart?: { words: ChartWords; within: RefObject<HTMLElement | null> }
  /** Files of the same that the server writes. */
  more?: readonly { words: string; href: string }[]
}

/** Takes a table out as a file, and the chart beside it as a drawing or a picture; or prints the page as it stands. */
export function TakeOut({ table, chart, more = [] }: Props) {
  const { taking, problem } = useTaking()
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
        <Dropdown.Item onClick={taking(() => takeOutCsv(table()))}>Table as CSV</Dropdown.Item>
        <Dropdown.Item onClick={taking(() => takeOutWorkbook(table()))}>Table as XLSX</Dropdown.Item>
        {chart && <Dropdown.Item onClick={taking(() => takeOutSvg(chart.words, drawn()))}>Chart as SVG</Dropdown.Item>}
        {chart && <Dropdown.Item onClick={taking(() => takeOutPng(chart.words, drawn()))}>Chart as PNG</Dropdown.Item>}
        {more.map(({ words, href }) => (
          <Dropdown.Item key={href} href={href} download>
            {words}
          </Dropdown.Item>
        ))}
        <Dropdown.Item onClick={() => window.print()}>Print</Dropdown.Item>
      </Dropdown.Menu>
      {problem}
    </Dropdown>
  )
}
