/**
 * Every letter, digit or sign that some screen takes as a key; a test holds it against the screens. Keys that a person chooses are checked
 * against all of them, since the same person presses them on every screen.
 */
export const SINGLE_KEYS: readonly string[] = [...'abcdefghjklmnopqrstuvwxyN0123456789+-/?[]']
