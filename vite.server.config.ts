import { resolve } from 'node:path'
import { defineConfig } from 'vite'

/** Packages without files or binaries of their own, built in: a worker thread starts in a fraction of the time that looking them up takes. */
const BUILT_IN = [
  /^@date-fns/,
  /^date-fns/,
  /^zod/,
  /^@stdlib/,
  /^mammoth/,
  /^htmlparser2/,
  /^read-excel-file/,
  /^write-excel-file/,
  /^csv-/,
  /^d3-array/,
]

/** The server and its worker threads; other packages stay in node_modules. */
export default defineConfig({
  ssr: { noExternal: BUILT_IN },
  build: {
    ssr: true,
    rollupOptions: {
      input: {
        main: resolve('server/main.ts'),
        files: resolve('server/workers/files.ts'),
        person: resolve('server/commands/person.ts'),
        backup: resolve('server/commands/backup.ts'),
        restore: resolve('server/commands/restore.ts'),
      },
    },
    outDir: resolve('dist/server'),
    emptyOutDir: true,
    target: 'node20',
    minify: false,
  },
})
