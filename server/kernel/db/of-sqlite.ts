/** Whether the database refused. Told by the code: the module may be loaded more than once in a process, and its class with it. */
export const isOfSqlite = (e: unknown): e is { code: string; message: string } => {
  const { code } = (e ?? {}) as { code?: unknown }
  return typeof code === 'string' && code.startsWith('SQLITE_')
}
