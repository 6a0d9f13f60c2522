const list = (from: string, script: string): string =>
  `(SELECT json_group_array(json_array(r.marker_id, r.version, r.mark) ORDER BY r.id) FROM ${from} r WHERE r.script_id = ${script} AND r.state = 'handed in')`

/**
 * SQL for the readings of one script that are handed in, as they count, as JSON: what a word on the script is spoken over.
 * @param script SQL for the script's id
 */
export const readingsOf = (script: string): string => list('reading_as_it_counts', script)

/**
 * SQL for whether a word that was spoken over some readings still holds: they are what they were, or were not yet carried over.
 * @param over SQL for the readings as JSON
 */
export const holdsOver = (over: string, script: string): string => `${over} IN (${readingsOf(script)}, ${list('reading', script)})`

/**
 * SQL for what counts of a reading `r`: as it was carried over to another version of its rubric or scale, else as it was made.
 * @param column of both the reading and what is carried
 */
export const asCarried = (column: 'mark' | 'picks' | 'judgement' | 'standard_id'): string =>
  `coalesce((SELECT c.${column} FROM carried_reading c JOIN decision d ON d.id = c.decision_id
     WHERE c.reading_id = r.id AND c.version = r.version AND d.withdrawn_at IS NULL ORDER BY d.seq DESC LIMIT 1), r.${column})`
