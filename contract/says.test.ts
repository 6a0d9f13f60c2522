import { z } from 'zod'
import { holds, says } from './says'

interface Weighed {
  id: string
  weight: number | null
}
const id = z.string()
const weight = z.number().nullable()

// The compiler is the judge: each line below is an error where the schema and the type have come apart.
test('a schema says a type only with every field just so, and none more', () => {
  expect(says<Weighed>()(z.strictObject({ id, weight })).parse({ id: 'a', weight: null })).toEqual({ id: 'a', weight: null })
  // @ts-expect-error a field is missing
  says<Weighed>()(z.strictObject({ id }))
  // @ts-expect-error a field more
  says<Weighed>()(z.strictObject({ id, weight, title: id }))
  // @ts-expect-error null is not said
  says<Weighed>()(z.strictObject({ id, weight: z.number() }))
})

test('a row may hold more than the core knows of it, and nothing less', () => {
  expect(holds<Weighed>()(z.strictObject({ id, weight, title: id })).safeParse({ id: 'a', weight: 1 }).success).toBe(false)
  // @ts-expect-error a field is missing
  holds<Weighed>()(z.strictObject({ id, title: id }))
  // @ts-expect-error null is not said
  holds<Weighed>()(z.strictObject({ id, weight: z.number(), title: id }))
})
