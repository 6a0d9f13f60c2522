interface Named {
  id: string
  name: string
}

const lastOf = (name: string): string => name.trim().split(/\s+/).at(-1) ?? name

/** People by the last word of their names, where that tells them apart from everybody else’s words; else by their whole names. */
export function shortNames(people: readonly Named[]): (id: string) => string {
  const times = new Map<string, number>()
  for (const { name } of people) for (const word of new Set(name.trim().split(/\s+/))) times.set(word, (times.get(word) ?? 0) + 1)
  const of = new Map(people.map(({ id, name }) => [id, name.trim().includes(' ') && times.get(lastOf(name)) === 1 ? lastOf(name) : name]))
  return (id) => of.get(id) ?? id
}
