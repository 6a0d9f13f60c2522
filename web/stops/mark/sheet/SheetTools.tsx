import { Button, Dropdown, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { SectionSelect } from '../../../parts/SectionSelect'
import { routes, type SheetByCell } from '#contract'
import { addressOf } from '../../../api/client'
import { ONLY, type Only } from './rows'
import { KeyCap } from '../../../settings/KeyCap'
import styles from './sheet.module.css'

interface Props {
  courseId: string
  sheet: SheetByCell
  /** What is shown; empty for all. */
  shown: { sectionId: string; assessmentId: string; only: Only }
  onSection: (sectionId: string) => void
  onAssessment: (assessmentId: string) => void
  onOnly: (only: Only) => void
  onBringIn: () => void
}

/** Which part of the sheet is shown, and marks as files. */
export function SheetTools({ courseId, sheet, shown, onSection, onAssessment, onOnly, onBringIn }: Props) {
  return (
    <div className={styles.sheetTools}>
      <SectionSelect sections={sheet.sections} value={shown.sectionId} onChange={onSection} />
      <Form.Select size="sm" aria-label="Assessment" value={shown.assessmentId} onChange={(e) => onAssessment(e.target.value)}>
        <option value="">all assessments</option>
        {sheet.assessments.map((a) => (
          <option key={a.id} value={a.id}>
            {a.title}
          </option>
        ))}
      </Form.Select>
      <Form.Select size="sm" aria-label="Which students" value={shown.only} onChange={(e) => onOnly(e.target.value as Only)}>
        {Object.entries(ONLY).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </Form.Select>
      <Dropdown>
        <Dropdown.Toggle size="sm" variant="outline-primary">
          Take it out
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item href={addressOf(routes.marksCsv, { courseId })} download>
            CSV
          </Dropdown.Item>
          <Dropdown.Item href={addressOf(routes.marksXlsx, { courseId })} download>
            XLSX
          </Dropdown.Item>
          <Dropdown.Item href={addressOf(routes.marksRoster, { courseId })} download>
            Results, OneRoster 1.2
          </Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
      {shown.sectionId !== '' && (
        <Link className="btn btn-sm btn-outline-primary" to={`/class/${courseId}/${shown.sectionId}`}>
          Show the class
        </Link>
      )}
      {sheet.writable && (
        <Button size="sm" variant="outline-primary" onClick={onBringIn}>
          Bring in a file <KeyCap cap="b" />
        </Button>
      )}
    </div>
  )
}
