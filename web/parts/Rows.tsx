import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react'

interface RowProps {
  ref?: (row: HTMLTableRowElement | null) => void
  'data-index'?: number
  'aria-rowindex'?: number
}

interface Props<T> {
  items: readonly T[]
  /** About how high a row is, in pixels; it is measured once it is drawn. */
  height: number
  columns: number
  /** The row that is kept in sight as it is chosen; −1 for none. */
  chosen?: number
  row: (item: T, props: RowProps) => ReactNode
}

/** Up to so many rows are drawn all at once. */
const FEW = 30
const OVERSCAN = 6

/** Rows of a table body: where there are hundreds only those in sight are drawn, between two that hold the place of the others. */
export function Rows<T>({ items, height, columns, chosen = -1, row }: Props<T>) {
  const first = useRef<HTMLTableRowElement>(null)
  const [scroller, setScroller] = useState<HTMLElement | null>(null)
  const many = items.length > FEW
  useLayoutEffect(() => {
    if (many) setScroller(first.current?.closest<HTMLElement>('.table-side, .close-up') ?? null)
  }, [many])
  const [above, setAbove] = useState(0)
  useLayoutEffect(() => {
    const tbody = first.current?.parentElement
    if (scroller && tbody) setAbove(tbody.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop)
  }, [scroller])
  const rows = useVirtualizer({
    count: many ? items.length : 0,
    getScrollElement: () => scroller,
    estimateSize: () => height,
    overscan: OVERSCAN,
    useFlushSync: false,
    scrollMargin: above,
    initialRect: { width: 0, height: 800 },
    // Whoever is chosen stays drawn, so that the focus is not lost with it.
    rangeExtractor: (range) => {
      const drawn = defaultRangeExtractor(range)
      return chosen < 0 || chosen >= items.length || drawn.includes(chosen) ? drawn : [...drawn, chosen].sort((a, b) => a - b)
    },
  })
  useEffect(() => {
    if (many && chosen >= 0) rows.scrollToIndex(chosen, { align: 'auto' })
    // Only as another is chosen: whoever scrolls away is not pulled back.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [many, chosen])
  if (!many) return items.map((item) => row(item, {}))
  const drawn = rows.getVirtualItems()
  const parts: ReactNode[] = []
  let end = above
  for (const v of drawn) {
    if (v.start > end) parts.push(<Gap key={`before ${v.index}`} height={v.start - end} columns={columns} />)
    // The head is the first row of the table.
    parts.push(row(items[v.index]!, { ref: rows.measureElement, 'data-index': v.index, 'aria-rowindex': v.index + 2 }))
    end = v.end
  }
  const rest = above + rows.getTotalSize() - end
  return (
    <>
      <tr ref={first} aria-hidden className="gap" />
      {parts}
      {rest > 0 && <Gap height={rest} columns={columns} />}
    </>
  )
}

const Gap = ({ height, columns }: { height: number; columns: number }) => (
  <tr aria-hidden className="gap">
    <td colSpan={columns} style={{ height, padding: 0, border: 0 }} />
  </tr>
)
