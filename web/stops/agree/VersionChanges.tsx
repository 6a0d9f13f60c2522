import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { compareRubrics } from '#core/scales'
import { routes, type Library } from '#contract'
import { call } from '../../api/client'
import styles from './agree.module.css'

/** What a version of a rubric changes in an earlier one, criterion by criterion. */
export function VersionChanges({ courseId, rubric }: { courseId: string; rubric: Library['rubrics'][number] }) {
  const [against, setAgainst] = useState<string | null>(null)
  const versions = useQuery({
    queryKey: ['library', courseId, 'versions', rubric.id, rubric.revision],
    queryFn: () => call(routes.rubricVersions, { params: { courseId, standardId: rubric.id } }),
    enabled: rubric.version > 1,
  })
  const earlier = (versions.data ?? []).filter((v) => v.version < rubric.version)
  const before = earlier.find((v) => v.id === against) ?? earlier[0]
  if (!before) return null
  const differences = compareRubrics(before.body, rubric)
  return (
    <section>
      <h2>What it changes</h2>
      {earlier.length > 1 ? (
        <Form.Select
          size="sm"
          className="mb-1"
          aria-label="Compared with version"
          value={before.id}
          onChange={(e) => setAgainst(e.target.value)}
        >
          {earlier.map((v) => (
            <option key={v.id} value={v.id}>
              against version {v.version}
              {v.readings > 0 && `, ${v.readings} readings`}
            </option>
          ))}
        </Form.Select>
      ) : (
        <p className="soft small mb-1">against version {before.version}</p>
      )}
      {differences.length === 0 ? (
        <p className="soft mb-1">No criterion differs.</p>
      ) : (
        <ul className={styles.differences}>
          {differences.map((d) => (
            <li key={d.criterionId}>
              <b>{d.title}</b> {d.kind === 'added' && 'is new'}
              {d.kind === 'removed' && 'is gone'}
              {d.changes.map((c) => (
                <span key={c} className="d-block small soft" dir="auto">
                  {c}
                </span>
              ))}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
