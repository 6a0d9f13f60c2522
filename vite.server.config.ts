import { resolve } from 'node:path'
import { defineConfig } from 'vite'

/** The server as one file; packages stay in node_modules. */
export default defineConfig({
  build: { ssr: resolve('server/main.ts'), outDir: resolve('dist/server'), emptyOutDir: true, target: 'node20', minify: false },
})
