const AT = '2026-11-01T00:00:00.000Z'

/** A row for every table, as the version that brought the table could write it. */
export const ROWS: Readonly<Record<number, string>> = {
  1: `
    INSERT INTO setting VALUES ('department', 'Hydrography');
    INSERT INTO person (id, name, sign_in, passphrase_hash) VALUES ('p', 'Ines', 'ines', 'x'), ('m', 'Mo', 'mo', 'x');
    INSERT INTO session VALUES ('t', 'p', '${AT}', '2027-11-01T00:00:00.000Z');
    INSERT INTO course (id, code, title, term, first_day, last_day, policy, boundaries) VALUES ('c', 'CFS', 'Field', 'autumn', '2026-09-07', '2026-12-18', '{}', '[]');
    INSERT INTO course_role VALUES ('c', 'p', 'lead'), ('c', 'm', 'marker');
    INSERT INTO section (id, course_id, code, name, teacher_id, position) VALUES ('s', 'c', 'A', 'Alidade', 'm', 0);
    INSERT INTO student (id, course_id, name, candidate) VALUES ('x', 'c', 'Aylin', '1');
    INSERT INTO enrolment (student_id, section_id, from_day) VALUES ('x', 's', '2026-09-07');
    INSERT INTO standard (id, kind, title, owner_id, body) VALUES ('r', 'rubric', 'Map', 'p', '{}');
    INSERT INTO component (id, course_id, title, combine, position) VALUES ('k', 'c', 'Work', 'byWorth', 0);
    INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, standard_id, position) VALUES ('a', 'c', 'k', 'Map', 'rubric', 10, 'r', 0);
    INSERT INTO placement (assessment_id, section_id, due) VALUES ('a', 's', '2026-10-12');
    INSERT INTO script (id, student_id, assessment_id, entered) VALUES ('a:x', 'x', 'a', 7);
    INSERT INTO script_state VALUES ('a:x', 1, 'in', 0, 7, 'p', '${AT}');
    INSERT INTO reading (id, script_id, marker_id, standard_id, mark, state, handed_in_at) VALUES ('g', 'a:x', 'm', 'r', 6.5, 'handed in', '${AT}');
    INSERT INTO reading_state (reading_id, version, mark, picks, state, at) VALUES ('g', 1, 6.5, '{}', 'handed in', '${AT}');
    INSERT INTO decision (id, course_id, seq, kind, summary, changes, reason, made_by, made_at) VALUES ('d', 'c', 1, 'reconcile', 'settled', '[]', '', 'p', '${AT}');
    INSERT INTO agreed_mark VALUES ('a:x', 'd', 7, '{}', 1);
    INSERT INTO trial (course_id, person_id, changes, kept_at) VALUES ('c', 'p', '[]', '${AT}');
    INSERT INTO issue (course_id, number, content, hash, made_at) VALUES ('c', 1, '{}', 'h', '${AT}');
    INSERT INTO signature VALUES ('c', 1, 'p', 'lead', 'I sign', '${AT}');`,
  2: `INSERT INTO finding_accepted VALUES ('c', 'key', 'known', 'p', '${AT}');`,
  4: `
    INSERT INTO suggestion (id, standard_id, words, by_id, at) VALUES ('u', 'r', 'Shorter', 'm', '${AT}');
    INSERT INTO exemplar (id, assessment_id, label, text, standard_id, mark, note, position) VALUES ('e', 'a', 'Sound', 'Text', 'r', 6, 'Why', 0);
    INSERT INTO exemplar_reading (exemplar_id, marker_id, mark, at) VALUES ('e', 'm', 5, '${AT}');
    INSERT INTO marking_gate VALUES ('a', 'm', 'open', 'p', '${AT}');
    INSERT INTO carried_reading VALUES ('d', 'g', 1, 'r', '{}', 6);`,
  5: `
    INSERT INTO allotment VALUES ('a', 'x', 'm', 0, 'p', '${AT}');
    INSERT INTO marking_deadline VALUES ('a', 'm', '2026-10-20');
    INSERT INTO kept_comment VALUES ('n', 'm', 'Go on.', 1, '${AT}');`,
  6: `
    INSERT INTO look (id, course_id, by_id, as_id, at) VALUES ('l', 'c', 'p', 'm', '${AT}');
    INSERT INTO delivery (id, course_id, file_name, candidate, assessment, came_at, kind, content, hash, state, script_id, attempt)
      VALUES ('v', 'c', '1.txt', '1', 'Map', '${AT}', 'text', x'00', 'h', 'placed', 'a:x', 1);
    INSERT INTO next_reading VALUES ('g', 1, 6, '{}', NULL, '', '{}', '', '${AT}');
    INSERT INTO letter VALUES ('w', 'c', 'p', 'm', 'Wanted', 'By Friday', '${AT}');`,
  7: `INSERT INTO shared_out (id, assessment_id, by_id, at, before) VALUES (1, 'a', 'p', '${AT}', '[]');`,
  11: `INSERT INTO seen_others VALUES ('g', '${AT}');`,
  13: `INSERT INTO blind_script VALUES ('b', 'a', 'x', 'B1');`,
  14: `INSERT INTO stand_in_set VALUES (1, 'c', 'post', 1, 'p', '${AT}');`,
  15: `INSERT INTO roll_file (id, course_id, name, summary, before, by_id, at) VALUES ('f', 'c', 'roll.csv', '1 added', '[]', 'p', '${AT}');`,
  16: `
    INSERT INTO way_in (token_hash, person_id, kind, at, ends_at) VALUES ('z', 'm', 'invitation', '${AT}', '2026-11-08T00:00:00.000Z');
    INSERT INTO audit (id, at, kind, words) VALUES (1, '${AT}', 'set up', '');
    INSERT INTO notice VALUES ('o', 'm', 'Welcome', '${AT}');`,
  17: `INSERT INTO sign_on_account VALUES ('https://over.there', 'sub', 'm', '${AT}');`,
  19: `INSERT INTO roll_match VALUES ('c', '[]', '{}', '${AT}');`,
  20: `INSERT INTO grade_set VALUES ('q', 'Two', '[]', 'p', '${AT}');`,
  24: `INSERT INTO note (id, course_id, about, about_id, by_id, words, at) VALUES ('y', 'c', 'section', 's', 'p', 'High for its work?', '${AT}');`,
  25: `INSERT INTO between_two (id, script_id, by_id, mark, reason, at, over) VALUES ('k', 'a:x', 'm', 6, 'In the middle', '${AT}', '[]');`,
  26: `INSERT INTO idea (id, course_id, stop, name, changes, by_id, at) VALUES ('d', 'c', 'rescale', 'Gentler', '[]', 'p', '${AT}');`,
  28: `INSERT INTO objection VALUES ('b', 'c', 1, 'p', 'lead', 'Two marks are missing', '${AT}', NULL);`,
  29: `
    INSERT INTO result_release VALUES ('c', 's', '2026-12-20', 'p', '${AT}');
    INSERT INTO hand_over (id, course_id, number, by_id, at, sent) VALUES ('h', 'c', 1, 'p', '${AT}', '[]');`,
  30: `
    INSERT INTO line_list VALUES ('j', 'c', 'Pass', 'p', '${AT}', NULL);
    INSERT INTO line_list_student VALUES ('j', 'x', 0);
    INSERT INTO line_list_judge VALUES ('j', 'm');
    INSERT INTO line_judgement VALUES ('j', 'x', 'm', 1, '${AT}');`,
  32: `
    INSERT INTO standard (id, kind, title, owner_id, body) VALUES ('o', 'outcome', 'Closes', 'p', '{}');
    INSERT INTO outcome_shown VALUES ('c', 'o', 'p', '${AT}');
    INSERT INTO outcome_judgement VALUES ('a', 'o');
    INSERT INTO typed_evidence VALUES ('v', 'c', 'o', 'x', 2, '2026-10-12', 'Said why', 'p', '${AT}', NULL);
    INSERT INTO kept_group VALUES ('q', 'c', 'Next field day', 'p', '${AT}');
    INSERT INTO kept_group_student VALUES ('q', 'x');`,
  33: `
    INSERT INTO student_view VALUES ('c', 1, 10);
    INSERT INTO handed_in_here VALUES ('a');
    INSERT INTO mark_question VALUES ('q', 'a:x', NULL, NULL, 'The ford is drawn.', 7, '${AT}', NULL, NULL, NULL);`,
  34: `INSERT INTO calendar_address VALUES ('m', 'token', '${AT}');`,
  35: `INSERT INTO code_name VALUES ('x', 'c', 'wren');`,
  36: `INSERT INTO by_standing VALUES ('a', 'o', '[0,60,100]', 'p', '${AT}');`,
  38: `
    INSERT INTO standard (id, kind, title, owner_id, body) VALUES ('sc', 'scale', 'Five words', 'p', '{}');
    INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, position) VALUES ('b', 'c', 'k', 'Closing', 'direct', 20, 1);
    INSERT INTO by_standing VALUES ('b', 'o', '[0,60,100]', 'p', '${AT}', 'sc', '[0,1,4]');`,
  39: `
    INSERT INTO roll_file (id, course_id, name, summary, before, by_id, at) VALUES ('rf', 'c', 'vale.zip', '1 added', '{}', 'p', '${AT}');
    INSERT INTO roster_class VALUES ('s', 'c', 'class-7', 'rf');
    INSERT INTO roster_teacher VALUES ('c', 'm', 'teacher-7');
    INSERT INTO roster_name VALUES ('x', 'Aylin', '', '');`,
  40: `INSERT INTO own_settings VALUES ('p', '{}');`,
  41: `INSERT INTO marks_match VALUES ('c', '[]', '{}', '${AT}');`,
  50: `INSERT INTO told_result VALUES ('c', 'x', 1, '${AT}');`,
  52: `INSERT INTO result_withdrawn VALUES ('h', 'x', 'p', '${AT}');`,
}
