/**
 * SQL for the readings of one script that are handed in, as JSON: what a word on the script was spoken over. The view `readings_now` has
 * the same of all scripts, and is worked out for all of them where it is asked row by row.
 * @param script SQL for the script's id
 */
export const readingsOf = (script: string): string =>
  `(SELECT json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id) FROM reading r WHERE r.script_id = ${script} AND r.state = 'handed in')`
