// npm run hash -- FILE: the SHA-256 of a JSON file in canonical form (RFC 8785), as an issue is signed.
import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import canonicalize from 'canonicalize'

const [file] = process.argv.slice(2)
if (!file) {
  console.error('Say which file: npm run hash -- FILE.json')
  process.exit(2)
}
const content = JSON.parse(readFileSync(file, 'utf8'))
console.log(createHash('sha256').update(canonicalize(content)).digest('hex'))
