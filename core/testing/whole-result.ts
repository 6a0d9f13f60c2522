import type { ComponentResult, CourseResult, GradedCourse } from '../grades/course'

/** A course's results with every component of every student told, to be compared with others. */
export const wholeResult = ({ componentsAt, ...result }: GradedCourse): CourseResult & { components: ComponentResult[][] } => ({
  ...result,
  components: result.students.map((_, row) => componentsAt(row)),
})
