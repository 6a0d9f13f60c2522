/** Stands for a style sheet of a screen’s own: every class is called what it is called in the file. */
const names: Record<string, string> = new Proxy({}, { get: (_, name) => (typeof name === 'string' ? name : undefined) })
export default names
