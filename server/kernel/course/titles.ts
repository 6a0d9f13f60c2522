import type { Db } from '../db/open'

/** Titles are unique in a course: a second "Quiz" becomes "Quiz 2". */
export function freeTitles(db: Db) {
  const titles = db.prepare<[string], { id: string; title: string }>('SELECT id, title FROM assessment WHERE course_id = ?')
  const components = db.prepare<[string], { id: string; title: string }>('SELECT id, title FROM component WHERE course_id = ?')
  const free = (rows: { id: string; title: string }[], title: string, but: string | null) => {
    const taken = new Set(rows.filter((t) => t.id !== but).map((t) => t.title.toLowerCase()))
    let found = title
    for (let n = 2; taken.has(found.toLowerCase()); n++) found = `${title} ${n}`
    return found
  }
  return {
    assessment: (courseId: string, title: string, but: string | null = null) => free(titles.all(courseId), title, but),
    component: (courseId: string, title: string, but: string | null = null) => free(components.all(courseId), title, but),
  }
}
