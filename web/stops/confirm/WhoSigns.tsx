import { useQuery } from '@tanstack/react-query'
import { Form } from 'react-bootstrap'
import { routes, type Signers } from '#contract'
import { call, messageOf } from '../../api/client'
import { useState } from 'react'
import { useDecidedCourse } from '../../course/course'
import { useSaved } from '../../saving/saved'
import { useIssues } from './useIssues'

/** Who may be asked for, in words. */
const CHOICES: { signers: Signers; words: string }[] = [
  { signers: ['lead', 'external'], words: 'a lead and an external' },
  { signers: ['lead', 'lead'], words: 'two leads' },
  { signers: ['lead', 'lead', 'external'], words: 'two leads and an external' },
  { signers: ['lead', 'external', 'external'], words: 'a lead and two externals' },
  { signers: ['lead'], words: 'a lead alone' },
]
const nameOf = (signers: Signers) => signers.join(' ')

/** Who must sign before the next issue counts. */
export function WhoSigns() {
  const { id, mayDecide } = useDecidedCourse()
  const { again } = useIssues()
  const { saving } = useSaved()
  const [problem, setProblem] = useState<string | null>(null)
  const { data } = useQuery({ queryKey: ['signers', id], queryFn: () => call(routes.signing, { params: { courseId: id } }) })
  if (!data) return null
  const set = async (signers: Signers) => {
    setProblem(null)
    try {
      await saving(call(routes.setSigning, { params: { courseId: id }, body: { signers } }))
      await again()
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const known = CHOICES.find((c) => nameOf(c.signers) === nameOf(data.signers))
  return (
    <section>
      <h2>Who must sign</h2>
      {mayDecide ? (
        <Form.Select
          size="sm"
          aria-label="Who must sign"
          value={nameOf(data.signers)}
          onChange={(e) => void set(CHOICES.find((c) => nameOf(c.signers) === e.target.value)!.signers)}
        >
          {!known && <option value={nameOf(data.signers)}>{data.signers.join(', ')}</option>}
          {CHOICES.map((c) => (
            <option key={c.words} value={nameOf(c.signers)}>
              {c.words}
            </option>
          ))}
        </Form.Select>
      ) : (
        <p className="mb-0">{known?.words ?? data.signers.join(', ')}</p>
      )}
      <p className="soft small mb-0 mt-1">
        An issue counts once all of them have signed it, each a person of their own, and nobody objects.
      </p>
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </section>
  )
}
