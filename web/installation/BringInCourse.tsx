import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Button, Modal } from 'react-bootstrap'
import type { z } from 'zod'
import { routes } from '#contract'
import { call, messageOf } from '../api/client'
import { useSaved } from '../saving/saved'
import { Dialog, DialogTitle } from '../parts/Dialog'
import { counted } from '../parts/format'
import { FileField } from '../parts/FileField'
import styles from './installation.module.css'

type Tried = z.infer<typeof routes.tryPackage.response>

/** A course that was taken out of another installation: tried first, then brought in whole. */
export function BringInCourse({ onClose, onDone }: { onClose: () => void; onDone: (courseId: string) => void }) {
  const { saving } = useSaved()
  const queries = useQueryClient()
  const [tried, setTried] = useState<Tried | null>(null)
  const [doing, setDoing] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  // What was tried and not brought in is not kept on the server.
  const left = useRef<string | null>(null)
  useEffect(
    () => () => {
      if (left.current) void call(routes.dropPackage, { params: { packageId: left.current }, keepalive: true }).catch(() => undefined)
    },
    [],
  )
  const tryFile = async (file: File) => {
    setProblem(null)
    setTried(null)
    setDoing(`Reading ${file.name}…`)
    try {
      const found = await call(routes.tryPackage, { file })
      left.current = found.packageId
      setTried(found)
    } catch (e) {
      setProblem(messageOf(e))
    }
    setDoing(null)
  }
  const bring = async ({ packageId }: Tried) => {
    setProblem(null)
    setDoing('Bringing it in…')
    try {
      const { courseId } = await saving(call(routes.bringInPackage, { params: { packageId } }))
      left.current = null
      await queries.invalidateQueries({ queryKey: ['installed courses'] })
      await queries.invalidateQueries({ queryKey: ['people'] })
      onDone(courseId)
      onClose()
    } catch (e) {
      setProblem(messageOf(e))
      setDoing(null)
    }
  }
  return (
    <Dialog onClose={onClose} size="lg">
      <Modal.Header closeButton>
        <DialogTitle>Bring in a course</DialogTitle>
      </Modal.Header>
      <Modal.Body className="d-grid gap-3">
        <FileField
          id="course-package"
          label="The Data Package (.zip) that the lead took out of it elsewhere, at Set out, course"
          accept=".zip,application/zip"
          disabled={doing !== null}
          onFile={(file) => void tryFile(file)}
        />
        <p role="status" className={doing ? 'soft mb-0' : 'visually-hidden'}>
          {doing}
        </p>
        {problem && (
          <p className="note bad mb-0" role="alert">
            {problem}
          </p>
        )}
        {tried && <WhatItWouldBe tried={tried} />}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Cancel
        </Button>
        <Button disabled={tried === null || doing !== null} onClick={() => tried && void bring(tried)}>
          {tried?.goesOn ? 'Go on with it' : 'Bring it in'}
        </Button>
      </Modal.Footer>
    </Dialog>
  )
}

function WhatItWouldBe({ tried: { course, counts, standards, people, goesOn } }: { tried: Tried }) {
  const staff = people.filter((p) => p.role !== 'student')
  const added = people.filter((p) => p.here === null).length
  const leads = people.filter((p) => p.role === 'lead')
  return (
    <>
      <div>
        <h2 className="mb-1">{course}</h2>
        <p className="mb-1" role="status">
          {[
            counted(counts.sections, 'section'),
            counted(counts.students, 'student'),
            counted(counts.assessments, 'assessment'),
            counted(counts.scripts, 'script'),
            counted(counts.readings, 'reading'),
            counted(counts.decisions, 'decision'),
            counted(counts.issues, 'issue'),
          ].join(' · ')}
        </p>
        <p className="soft mb-0">
          Every table and reference was checked, and the course can be worked out. Of the library it uses{' '}
          {counted(standards.added, 'entry', 'entries')} that {standards.added === 1 ? 'is' : 'are'} added
          {standards.known > 0 && `, and ${standards.known} that ${standards.known === 1 ? 'is' : 'are'} here already`}.
          {goesOn && ' It was begun before and did not come to its end: it goes on.'}
        </p>
        {!leads.some((l) => l.here !== null) && (
          <p className="ochre mt-1 mb-0">
            None of its leads is here yet: invite them at people once it is brought in, or give it another lead.
          </p>
        )}
      </div>
      <div className={styles.triedPeople}>
        <table className="grid" aria-label="Its people">
          <thead>
            <tr>
              <th>there</th>
              <th>sign-in</th>
              <th>part</th>
              <th>here</th>
            </tr>
          </thead>
          <tbody>
            {staff.map((p) => (
              <tr key={p.signIn}>
                <td>{p.name}</td>
                <td>{p.signIn}</td>
                <td>{p.role ?? <span className="soft">none any more</span>}</td>
                <td className={p.here === null ? 'soft' : p.here === p.name ? '' : 'ochre'}>
                  {p.here === null ? 'added, not invited yet' : p.here === p.name ? 'the same' : `is ${p.here}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="soft small mb-0">
        {added === 0 ? 'Everybody is here already.' : `${counted(added, 'person is', 'people are')} added: nobody here has their sign-in.`}{' '}
        Check those in ochre: what they did there would be theirs here.
      </p>
    </>
  )
}
