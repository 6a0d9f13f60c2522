import { jest } from '@jest/globals'
import fc from 'fast-check'
import { SOAK } from './runs'

// The same cases on every run, so that a red run is red for everybody; `npm run soak` looks for new ones.
fc.configureGlobal({ seed: SOAK?.seed ?? 20_260_907, numRuns: 100 * (SOAK?.times ?? 1), verbose: true })
if (SOAK) jest.setTimeout(600_000)
