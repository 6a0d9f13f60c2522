import react from '@vitejs/plugin-react'
import { resolve } from 'node:path'
import { defineConfig, normalizePath } from 'vite'
import { viteStaticCopy } from 'vite-plugin-static-copy'

const api = `http://127.0.0.1:${process.env.PORT ?? 4280}`

export default defineConfig({
  root: 'web',
  // What the PDF viewer needs for fonts that a file names and does not bring along.
  plugins: [
    react(),
    viteStaticCopy({
      targets: ['standard_fonts', 'cmaps'].map((name) => ({
        src: normalizePath(resolve(`node_modules/pdfjs-dist/${name}/*`)),
        dest: `pdf/${name}`,
      })),
    }),
  ],
  // The browser build of the CSV reader brings its own Buffer.
  resolve: {
    alias: {
      'csv-parse/sync': 'csv-parse/browser/esm/sync',
      '@stdlib/assert-has-generator-support': resolve('web/has-generators.cjs'),
    },
  },
  worker: { format: 'es' },
  // The content security policy takes fonts and pictures from files only.
  build: { outDir: resolve('dist/web'), emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { host: '127.0.0.1', port: 5280, proxy: { '/api': { target: api, changeOrigin: false } } },
})
