/* eslint-disable no-control-regex */
/** Controls, marks that turn the writing direction, halves of letters, and what is no letter at all: none of them belongs in a name. */
const HIDDEN =
  /[\u0000-\u001F\u007F-\u009F\u061C\u200E\u200F\u202A-\u202E\u2066-\u2069\uFFF9-\uFFFB\uFFFE\uFFFF]|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/

/** Whether a name, title or code is what it looks like: nothing in it is hidden or turns what stands beside it round. */
export const isPlainName = (text: string): boolean => !HIDDEN.test(text)
