import type { FieldValues, Path, UseFormSetError } from 'react-hook-form'
import { messageOf, ProblemError } from '../api/client'

/** Says what the server refused at the field it is about, which gets the focus; else at the form. */
export function refusedIn<Fields extends FieldValues>(error: unknown, setError: UseFormSetError<Fields>): void {
  const field = error instanceof ProblemError ? error.problem.field : undefined
  if (field) setError(field as Path<Fields>, { message: messageOf(error) }, { shouldFocus: true })
  else setError('root', { message: messageOf(error) })
}
