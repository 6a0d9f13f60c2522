import { config } from 'zod'

// A page’s policy lets nothing be made into code, and to try it would be complained of: there, schemas are read as they are. It
// must be said before the first schema is made, therefore first of all in the files that others stand on.
if ('document' in globalThis || 'WorkerGlobalScope' in globalThis) config({ jitless: true })
