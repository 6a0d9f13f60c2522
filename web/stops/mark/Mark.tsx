import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { routes } from '#contract'
import { call, messageOf } from '../../api/client'
import { BringIn } from './BringIn'
import { MarkSheet } from './MarkSheet'
import './mark.css'

/** Marks come in: typed into the sheet, or brought in from a file. */
export default function Mark() {
  const { courseId = '' } = useParams()
  const [bringing, setBringing] = useState(false)
  const sheet = useQuery({ queryKey: ['sheet', courseId], queryFn: () => call(routes.sheet, { params: { courseId } }) })
  if (sheet.error) return <div className="empty">{messageOf(sheet.error)}</div>
  if (!sheet.data) return <div className="empty">Fetching the mark sheet…</div>
  if (sheet.data.students.length === 0)
    return (
      <div className="empty">
        {sheet.data.sections.length === 0
          ? 'You teach no section of this course, so there is no sheet of yours. Whoever leads the course can give you one.'
          : 'There is nobody on the roll yet. Bring the students in at Set out, and their marks are typed here.'}
      </div>
    )
  return (
    <>
      <MarkSheet courseId={courseId} sheet={sheet.data} onBringIn={() => setBringing(true)} />
      {bringing && <BringIn courseId={courseId} onClose={() => setBringing(false)} />}
    </>
  )
}
