import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { wayTitle } from '#core/marking'
import { routes, type Component, type TriedAssessment } from '#contract'
import type { z } from 'zod'
import { call, messageOf } from '../../../api/client'
import { base64Of } from '../../../api/stream'
import { Dialog, DialogTitle } from '../../../parts/Dialog'
import { counted, numeral } from '../../../parts/format'
import { InComponent } from './InComponent'
import { FileField, MOST_FILE } from '../../../parts/FileField'

type Body = z.input<typeof routes.bringInAssessment.body>

interface Props {
  courseId: string
  components: Component[]
  hasMarks: boolean
  onBringIn: (body: Body) => Promise<void>
  onClose: () => void
}

/** An assessment that was taken out of this course or another one: shown first, then added with what it is marked by. */
export function BringInAssessment({ courseId, components, hasMarks, onBringIn, onClose }: Props) {
  const [found, setFound] = useState<{ file: string; tried: TriedAssessment } | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const [chosen, setChosen] = useState('')
  const alike = components.find((c) => c.title === found?.tried.component)
  const componentId = chosen || (alike ?? components[0])?.id || ''

  const open = async (given: File) => {
    setFound(null)
    setProblem(null)
    if (given.size > MOST_FILE) return setProblem(`${given.name} is over 12 MB: no package of one assessment is.`)
    setBusy(true)
    try {
      const file = await base64Of(given)
      setFound({ file, tried: await call(routes.tryAssessmentPackage, { params: { courseId }, body: { file } }) })
    } catch (e) {
      setProblem(messageOf(e))
    }
    setBusy(false)
  }
  return (
    <Dialog onClose={onClose}>
      <Form
        onSubmit={(e) => {
          e.preventDefault()
          if (found) void onBringIn({ file: found.file, componentId })
        }}
      >
        <Modal.Header closeButton>
          <DialogTitle>An assessment from a package</DialogTitle>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          <FileField
            id="assessment-package"
            label="A data package (zip) that an assessment was taken out as, here or elsewhere"
            accept=".zip,application/zip"
            first
            onFile={(file) => void open(file)}
          />
          {problem && (
            <p className="note bad mb-0" role="alert">
              {problem}
            </p>
          )}
          {busy && !found && <p className="soft mb-0">Reading it…</p>}
          {found && (
            <>
              <div role="status">
                <p className="mb-1">
                  <b>{found.tried.title}</b> <span className="soft">out of {numeral(found.tried.outOf)},</span>{' '}
                  {wayTitle(found.tried.marking)}
                </p>
                <p className="mb-1">
                  {found.tried.standard ? (
                    <>
                      Marked by “{found.tried.standard.title}”
                      {found.tried.standard.here
                        ? ', which the library has already.'
                        : ', which the library does not have yet: it comes along.'}
                    </>
                  ) : (
                    'It comes with no rubric, mark scheme or scale.'
                  )}
                </p>
                <p className="soft mb-0">
                  {counted(found.tried.marks, 'mark')} and {counted(found.tried.readings, 'reading')} are in the package and stay in it.
                  Marks are brought in at Mark’s sheet, from the same file.
                </p>
              </div>
              <InComponent id="package-component" components={components} value={componentId} onChange={setChosen} />
              {hasMarks && (
                <p className="soft small mb-0">
                  There are marks already, so it is recorded but does not count until you tick “counts” and adopt that.
                </p>
              )}
            </>
          )}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="link" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={!found || componentId === ''}>
            Add it
          </Button>
        </Modal.Footer>
      </Form>
    </Dialog>
  )
}
