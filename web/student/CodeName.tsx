import { useMutation, useQueryClient } from '@tanstack/react-query'
import { routes } from '#contract'
import { call, messageOf } from '../api/client'
import { TitleField } from '../parts/TitleField'
import styles from './student.module.css'

/** What one is called where the class looks on together, to be chosen by oneself. */
export function CodeName({ courseId, name }: { courseId: string; name: string }) {
  const queries = useQueryClient()
  const choose = useMutation({
    mutationFn: (next: string) => call(routes.chooseCodeName, { params: { courseId }, body: { name: next } }),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['own work', courseId] }),
  })
  return (
    <section aria-label="Your code name" className={styles.codeName}>
      <h2>Your code name</h2>
      <p className="soft mb-1">What you are called where your class looks at its work together. Nobody is told whose it is.</p>
      <TitleField label="Your code name" value={name} disabled={choose.isPending} onCommit={(next) => choose.mutate(next)} />
      {choose.error && (
        <p className="note bad mt-1" role="alert">
          {messageOf(choose.error)}
        </p>
      )}
    </section>
  )
}
