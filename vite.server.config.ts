import { resolve } from 'node:path'
import { defineConfig } from 'vite'

/** The server and its worker threads; packages stay in node_modules. */
export default defineConfig({
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
