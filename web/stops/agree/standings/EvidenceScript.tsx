import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { routes } from '#contract'
import { call, messageOf } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { Attempts } from '../../../parts/script/Attempts'

interface Props {
  scriptId: string
  studentId: string
  assessmentId: string
  title: string
}

/** The script that a result was seen in, opened where one reads of it. */
export function EvidenceScript({ scriptId, studentId, assessmentId, title }: Props) {
  const { id } = useDecidedCourse()
  const [isOpen, setOpen] = useState(false)
  const detail = useQuery({
    queryKey: ['script', id, scriptId],
    queryFn: () => call(routes.script, { params: { courseId: id, scriptId } }),
    enabled: isOpen,
  })
  const attempts = detail.data?.attempts ?? []
  return (
    <>
      <button className="quiet-button" aria-expanded={isOpen} aria-label={`The script of ${title}`} onClick={() => setOpen((was) => !was)}>
        {isOpen ? 'close' : 'script'}
      </button>
      {isOpen && (
        <div className="mt-1">
          {detail.error && <p className="note bad">{messageOf(detail.error)}</p>}
          {detail.data && detail.data.remark !== '' && (
            <p className="mb-1" dir="auto">
              <span className="soft">Beside the mark:</span> {detail.data.remark}
            </p>
          )}
          {attempts.length > 0 && <Attempts courseId={id} assessmentId={assessmentId} studentId={studentId} attempts={attempts} />}
          {detail.data && attempts.length === 0 && <span className="soft">Nothing of the work itself is kept here. </span>}
          <Link to={`/courses/${id}/students/${studentId}`}>All that the student did</Link>
        </div>
      )}
    </>
  )
}
