import { useCallback } from 'react'
import { sentenceWith } from '#core/grades'
import { page } from '../api/client'
import { useDecidedCourse } from '../course/course'

/** Writes a sentence that was kept of the course with one's own decimals. */
export function useKeptSentence(): (sentence: string) => string {
  const { table } = useDecidedCourse()
  return useCallback(
    (sentence) => {
      const named = [...table.assessments, ...table.components].map((x) => x.title)
      const called = [...table.sections.map((s) => s.name), ...table.boundaries.map((b) => b.grade)]
      return sentenceWith(page.settings.decimal, sentence, [...named, ...called])
    },
    [table],
  )
}

/** Such a sentence on the page. */
export const KeptSentence = ({ children }: { children: string }) => useKeptSentence()(children)
