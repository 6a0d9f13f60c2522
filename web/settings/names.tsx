import { createContext, use, useCallback, useMemo, useState, type ReactNode } from 'react'
import type { Student } from '#contract'

interface Names {
  shown: 'names' | 'numbers'
  turn: () => void
}

const NamesContext = createContext<Names | null>(null)
const KEPT = 'level-table-names'

/** One switch for the whole screen: names or candidate numbers. */
export function NamesProvider({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<Names['shown']>(() => (localStorage.getItem(KEPT) === 'numbers' ? 'numbers' : 'names'))
  const turn = useCallback(
    () =>
      setShown((was) => {
        const now = was === 'names' ? 'numbers' : 'names'
        localStorage.setItem(KEPT, now)
        return now
      }),
    [],
  )
  const value = useMemo(() => ({ shown, turn }), [shown, turn])
  return <NamesContext value={value}>{children}</NamesContext>
}

export function useNames(): Names {
  const names = use(NamesContext)
  if (!names) throw new Error('outside NamesProvider')
  return names
}

/** How each student is called on screen; two of one name carry their numbers. */
export function usePersonLabels(students: readonly Pick<Student, 'id' | 'name' | 'candidate'>[]): (studentId: string) => string {
  const { shown } = useNames()
  const labels = useMemo(() => {
    const count = new Map<string, number>()
    for (const s of students) count.set(s.name, (count.get(s.name) ?? 0) + 1)
    return new Map(
      students.map((s) => [s.id, shown === 'numbers' ? s.candidate : count.get(s.name)! > 1 ? `${s.name} · ${s.candidate}` : s.name]),
    )
  }, [students, shown])
  return useCallback((id: string) => labels.get(id) ?? '', [labels])
}
