/** Whether a text can be a mail address (RFC 5321 in outline: one @, no blanks, a dot in the domain). */
export const isMailAddress = (text: string): boolean => /^[^\s@<>,;"]{1,64}@[^\s@<>,;"]+\.[^\s@<>,;"]{2,}$/.test(text) && text.length <= 254

/** Whether a text can be a sign-in: no blanks, 1 to 120 characters. */
export const isSignIn = (text: string): boolean => /^[^\s<>,;"\p{C}]{1,120}$/u.test(text)
