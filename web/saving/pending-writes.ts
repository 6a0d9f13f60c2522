/** Writes of this page that are on their way: what others tell meanwhile waits, since the last of them fetches anew anyway. */
export const pendingWrites = { count: 0 }
