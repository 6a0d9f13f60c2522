/** A table that a course's state stands in. */
export interface PackagedTable {
  name: string
  /** In SQL, which of its rows `t` are the course's, `:course` being its id. */
  rows: string
  /** Those of its columns that are taken along; all where nothing is said. */
  columns?: readonly string[]
  /** Columns that say who, where they do so inside JSON. */
  namesPeople?: readonly string[]
  /** In SQL, which of those a lead is shown; all where nothing is said. Only what somebody moves as a whole, an admin, has the others. */
  shown?: string
  /** Whether its first column is only a count, given anew wherever rows are added. */
  counted?: true
}

const OF_COURSE = 't.course_id = :course'
const OF_ASSESSMENT = 't.assessment_id IN (SELECT id FROM assessment WHERE course_id = :course)'
const SCRIPTS = '(SELECT s.id FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = :course)'
const OF_LIST = 't.list_id IN (SELECT id FROM line_list WHERE course_id = :course)'
const OF_SCRIPT = `t.script_id IN ${SCRIPTS}`
const OF_READING = `t.reading_id IN (SELECT r.id FROM reading r WHERE r.script_id IN ${SCRIPTS})`

/** What the course's tables refer to of the library, with what that refers to in turn. */
export const STANDARDS = `WITH RECURSIVE used (id) AS (
    SELECT standard_id FROM assessment WHERE course_id = :course AND standard_id IS NOT NULL
    UNION SELECT t.standard_id FROM reading t WHERE t.standard_id IS NOT NULL AND ${OF_SCRIPT}
    UNION SELECT t.standard_id FROM exemplar t WHERE t.standard_id IS NOT NULL AND ${OF_ASSESSMENT}
    UNION SELECT t.standard_id FROM carried_reading t WHERE ${OF_READING}
    UNION SELECT t.outcome_id FROM outcome_shown t WHERE ${OF_COURSE}
    UNION SELECT t.outcome_id FROM outcome_judgement t WHERE ${OF_ASSESSMENT}
    UNION SELECT t.outcome_id FROM typed_evidence t WHERE ${OF_COURSE}
    UNION SELECT t.outcome_id FROM by_standing t WHERE ${OF_ASSESSMENT}
    UNION SELECT t.scale_id FROM by_standing t WHERE t.scale_id IS NOT NULL AND ${OF_ASSESSMENT}
    UNION SELECT x.id FROM used u JOIN standard s ON s.id = u.id JOIN standard x
      ON x.id IN (s.follows, s.copied_from) OR x.id IN (SELECT atom FROM json_tree(s.body) WHERE type = 'text')
    UNION SELECT g.copy_id FROM used u JOIN suggestion g ON g.standard_id = u.id WHERE g.copy_id IS NOT NULL
  ) SELECT id FROM used`

/** Each table of a course, those that others refer to first. A person comes along as who they are, and not with how they come in. */
export const PACKAGED: readonly PackagedTable[] = [
  { name: 'person', rows: 'PEOPLE', columns: ['id', 'name', 'sign_in', 'email', 'external_id'] },
  { name: 'standard', rows: `t.id IN (${STANDARDS})` },
  { name: 'suggestion', rows: `t.standard_id IN (${STANDARDS})` },
  { name: 'course', rows: 't.id = :course' },
  { name: 'course_role', rows: OF_COURSE },
  { name: 'section', rows: OF_COURSE },
  { name: 'student', rows: OF_COURSE },
  { name: 'enrolment', rows: 't.student_id IN (SELECT id FROM student WHERE course_id = :course)' },
  { name: 'component', rows: OF_COURSE },
  { name: 'assessment', rows: OF_COURSE },
  { name: 'placement', rows: OF_ASSESSMENT },
  { name: 'script', rows: OF_ASSESSMENT },
  { name: 'script_state', rows: OF_SCRIPT },
  { name: 'reading', rows: OF_SCRIPT },
  { name: 'reading_state', rows: OF_READING },
  // What a marker is still at; what a lead tries is their own.
  { name: 'next_reading', rows: OF_READING, shown: 't.reading_id IN (SELECT id FROM reading WHERE marker_id = :person)' },
  { name: 'seen_others', rows: OF_READING },
  { name: 'delivery', rows: OF_COURSE },
  { name: 'exemplar', rows: OF_ASSESSMENT },
  {
    name: 'exemplar_reading',
    rows: 't.exemplar_id IN (SELECT e.id FROM exemplar e JOIN assessment a ON a.id = e.assessment_id WHERE a.course_id = :course)',
  },
  { name: 'marking_gate', rows: OF_ASSESSMENT },
  { name: 'allotment', rows: OF_ASSESSMENT },
  { name: 'marking_deadline', rows: OF_ASSESSMENT },
  { name: 'shared_out', rows: OF_ASSESSMENT, namesPeople: ['before', 'rule'], counted: true },
  { name: 'blind_script', rows: OF_ASSESSMENT },
  { name: 'decision', rows: OF_COURSE, namesPeople: ['changes'] },
  { name: 'agreed_mark', rows: OF_SCRIPT, namesPeople: ['rule', 'over'] },
  { name: 'carried_reading', rows: OF_READING },
  { name: 'between_two', rows: OF_SCRIPT, namesPeople: ['over'] },
  { name: 'trial', rows: OF_COURSE, shown: 't.person_id = :person', namesPeople: ['changes'] },
  { name: 'idea', rows: OF_COURSE, namesPeople: ['changes'] },
  { name: 'issue', rows: OF_COURSE },
  { name: 'signature', rows: OF_COURSE },
  { name: 'objection', rows: OF_COURSE },
  { name: 'result_release', rows: OF_COURSE },
  { name: 'told_result', rows: OF_COURSE },
  { name: 'hand_over', rows: OF_COURSE },
  { name: 'result_withdrawn', rows: 't.hand_over_id IN (SELECT id FROM hand_over WHERE course_id = :course)' },
  { name: 'line_list', rows: OF_COURSE },
  { name: 'line_list_student', rows: OF_LIST },
  { name: 'line_list_judge', rows: OF_LIST },
  // Leads are told figures, and not who said what.
  { name: 'line_judgement', rows: OF_LIST, shown: 't.person_id = :person' },
  { name: 'outcome_shown', rows: OF_COURSE },
  { name: 'outcome_judgement', rows: OF_ASSESSMENT },
  { name: 'typed_evidence', rows: OF_COURSE },
  { name: 'kept_group', rows: OF_COURSE },
  { name: 'kept_group_student', rows: 't.group_id IN (SELECT id FROM kept_group WHERE course_id = :course)' },
  { name: 'student_view', rows: OF_COURSE },
  { name: 'handed_in_here', rows: OF_ASSESSMENT },
  { name: 'mark_question', rows: OF_SCRIPT },
  { name: 'code_name', rows: OF_COURSE },
  { name: 'by_standing', rows: OF_ASSESSMENT },
  { name: 'finding_accepted', rows: OF_COURSE },
  { name: 'look', rows: OF_COURSE },
  { name: 'note', rows: OF_COURSE },
  { name: 'letter', rows: OF_COURSE },
  { name: 'stand_in_set', rows: OF_COURSE, counted: true },
  { name: 'roll_file', rows: OF_COURSE },
  { name: 'roll_match', rows: OF_COURSE },
  { name: 'marks_match', rows: OF_COURSE },
  { name: 'roster_class', rows: OF_COURSE },
  { name: 'roster_teacher', rows: OF_COURSE },
  { name: 'roster_name', rows: 't.student_id IN (SELECT id FROM student WHERE course_id = :course)' },
]

/** What is the installation's, or a person's own, and stays where it is. */
export const STAYS: readonly string[] = [
  'setting',
  'session',
  'way_in',
  'sign_on_account',
  'audit',
  'notice',
  'kept_comment',
  'grade_set',
  'calendar_address',
  'own_settings',
]
