import type { Format } from './format'

/** Rubrics and outcomes as CASE writes them: a JSON file begins with a brace, with or without a mark before it. */
export const competencies: Format = {
  called: 'a JSON file (CASE)',
  begins: (bytes) => /^\uFEFF?\s*\{/.test(new TextDecoder().decode(bytes.subarray(0, 64))),
  instead: 'Rubrics and outcomes are brought in at Agree.',
}
