import { Minus, Plus } from 'lucide-react'
import { useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Document, Page, pdfjs } from 'react-pdf'
import 'react-pdf/dist/Page/TextLayer.css'
import { counted } from '../format'
import { useWidth } from '../useWidth'
import styles from './pdf.module.css'

pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).toString()

// Fonts that a PDF names and does not bring along ship with us.
const OPTIONS = { standardFontDataUrl: '/pdf/standard_fonts/', cMapUrl: '/pdf/cmaps/', cMapPacked: true, isEvalSupported: false }
const ZOOMS = [0.75, 1, 1.25, 1.5, 2, 3]
/** Hairlines at both sides of a page. */
const EDGES = 2
/** Pages drawn at once; the rest when they are asked for. */
const AT_ONCE = 20

/** A PDF, page under page, as wide as there is room. */
export default function PdfView({ address, title }: { address: string; title: string }) {
  const box = useRef<HTMLDivElement>(null)
  const width = useWidth(box)
  const [pages, setPages] = useState(0)
  const [drawn, setDrawn] = useState(AT_ONCE)
  const [zoom, setZoom] = useState(1)
  const file = useMemo(() => ({ url: address, withCredentials: true }), [address])
  const step = (by: 1 | -1) => setZoom((z) => ZOOMS[Math.max(0, Math.min(ZOOMS.length - 1, ZOOMS.indexOf(z) + by))]!)
  return (
    <div className={styles.pdf} ref={box}>
      <div className={styles.pdfTools}>
        <span className="soft small">{pages > 0 && counted(pages, 'page')}</span>
        <Button size="sm" variant="link" aria-label="Smaller" disabled={zoom === ZOOMS[0]} onClick={() => step(-1)}>
          <Minus size={15} aria-hidden />
        </Button>
        <span className="number small">{Math.round(zoom * 100)}%</span>
        <Button size="sm" variant="link" aria-label="Larger" disabled={zoom === ZOOMS.at(-1)} onClick={() => step(1)}>
          <Plus size={15} aria-hidden />
        </Button>
        <a className="small" href={address} download>
          take it out
        </a>
      </div>
      <Document
        file={file}
        options={OPTIONS}
        loading={<p className="soft">Opening {title}…</p>}
        error={<p className="note bad">This PDF cannot be shown: it is damaged or locked. Take it out to look at it elsewhere.</p>}
        onLoadSuccess={({ numPages }) => setPages(numPages)}
      >
        {width > 0 &&
          Array.from({ length: Math.min(pages, drawn) }, (_, i) => (
            <Page key={i} pageNumber={i + 1} width={(width - EDGES) * zoom} renderAnnotationLayer={false} loading="" />
          ))}
      </Document>
      {pages > drawn && (
        <Button variant="outline-primary" onClick={() => setDrawn(drawn + AT_ONCE)}>
          Show {counted(Math.min(AT_ONCE, pages - drawn), 'further page')}
        </Button>
      )}
    </div>
  )
}
