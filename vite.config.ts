import react from '@vitejs/plugin-react'
import { resolve } from 'node:path'
import { PurgeCSS } from 'purgecss'
import { defineConfig, normalizePath, type Plugin } from 'vite'
import { viteStaticCopy } from 'vite-plugin-static-copy'

const api = `http://127.0.0.1:${process.env.PORT ?? 4280}`

/** What the kit's components put together themselves, of those that are used. */
const KIT = [
  /^btn(-sm|-link|-primary|-outline-primary|-close|-check)?$/,
  /^dropdown(-toggle|-menu|-menu-end|-item|-divider|-header)?$/,
  /^modal/,
  /^popover/,
  /^bs-popover/,
  /^form-(control|select|check|label|text)/,
  /^(is-)?(in)?valid(-feedback)?$/,
  /^(show|fade|active|disabled|collapsed)$/,
]

/** Takes out of the kit's style sheet what no screen uses; our own stay as they are. */
const purgeKit: Plugin = {
  name: 'purge-kit',
  enforce: 'pre',
  async transform(css, id) {
    if (!id.includes('bootstrap/dist/css')) return null
    const content = ['web/**/*.tsx', 'web/index.html']
    const [purged] = await new PurgeCSS().purge({ content, css: [{ raw: css }], safelist: { standard: KIT } })
    return purged!.css
  },
}

export default defineConfig({
  root: 'web',
  // What the PDF viewer needs for fonts that a file names and does not bring along.
  plugins: [
    purgeKit,
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
      'csv-stringify/sync': 'csv-stringify/browser/esm/sync',
      '@stdlib/assert-has-generator-support': resolve('web/has-generators.cjs'),
    },
  },
  worker: { format: 'es' },
  // The content security policy takes fonts and pictures from files only.
  build: { outDir: resolve('dist/web'), emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { host: '127.0.0.1', port: 5280, proxy: { '/api': { target: api, changeOrigin: false } } },
})
