import {
  afterLast,
  ORG,
  putFrame,
  rosterWriter,
  sessionId,
  studentId,
  userRow,
  type RosterCourse,
  type RosterNames,
  type RosterRow,
} from './roster-files'
import { writeWeekdays } from './weekdays'
import type { WrittenRoll } from './write-roll'

const SHEETS = ['academicSessions.csv', 'orgs.csv', 'courses.csv', 'classes.csv', 'users.csv', 'roles.csv', 'enrollments.csv'] as const

/** A roll as a zipped roster (OneRoster 1.2 CSV, bulk) that reads back as the same. */
export function writeOneRoster(course: RosterCourse, roll: WrittenRoll, names: RosterNames): Uint8Array {
  const { put, pack } = rosterWriter(SHEETS)
  putFrame(put, course)
  put('courses.csv', { sourcedId: course.id, title: course.title, courseCode: course.code, orgSourcedId: ORG })
  const user = (row: RosterRow, role: 'student' | 'teacher') => {
    put('users.csv', row)
    const sourcedId = row.sourcedId!
    put('roles.csv', { sourcedId: `role-${sourcedId}`, userSourcedId: sourcedId, roleType: 'primary', role, orgSourcedId: ORG })
  }
  const enrol = (classId: string, userId: string, role: string, beginDate: string, endDate: string) =>
    put('enrollments.csv', {
      sourcedId: `${classId}-${userId}${beginDate && `-${beginDate}`}`,
      classSourcedId: classId,
      schoolSourcedId: ORG,
      userSourcedId: userId,
      role,
      primary: String(role === 'teacher'),
      beginDate,
      endDate,
    })
  const teachers = new Set<string>()
  for (const s of roll.sections) {
    put('classes.csv', {
      sourcedId: names.classOf(s.id),
      title: s.name,
      courseSourcedId: course.id,
      classCode: s.code,
      classType: 'scheduled',
      schoolSourcedId: ORG,
      termSourcedIds: sessionId(course.id),
      'metadata.weekdays': writeWeekdays(s.weekdays),
      'metadata.firstDay': s.firstDay ?? '',
    })
    if (s.teacher === null || s.teacherId === null) continue
    const teacher = names.teacherOf(s.teacherId)
    if (!teachers.has(teacher)) user(userRow(teacher, s.teacher, null, '', null), 'teacher')
    teachers.add(teacher)
    enrol(names.classOf(s.id), teacher, 'teacher', '', '')
  }
  for (const s of roll.students) {
    const id = studentId(s.externalId, s.candidate)
    user(userRow(id, s.name, names.partsOf(s.id), s.candidate, s.signIn), 'student')
    for (const stay of s.stays) enrol(names.classOf(stay.sectionId), id, 'student', stay.from, stay.to === null ? '' : afterLast(stay.to))
  }
  return pack()
}
