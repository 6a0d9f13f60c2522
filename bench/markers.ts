import { markerEffects, type ReadingSet } from '#core/compare'
import { seeded } from '#core/share'
import { takeTurns } from './grade-course'

/** Readings of a department that shares everything out: every script read once, and as many more drawn anew. */
function shared(scripts: number, markers: number, readings: number): ReadingSet {
  const random = seeded(11)
  const script = Int32Array.from({ length: readings }, (_, r) => (r < scripts ? r : random.below(scripts)))
  const marker = Int32Array.from({ length: readings }, () => random.below(markers))
  const mark = Float64Array.from(
    { length: readings },
    (_, r) => 50 + (script[r]! % 37) + (marker[r]! % 11) * 0.5 + random.below(1000) / 100,
  )
  return { script, marker, mark, scripts, markers }
}

/** One bare pass over the same columns: sums by script and by marker. */
function bare({ script, marker, mark, scripts, markers }: ReadingSet): number {
  const [byScript, byMarker] = [new Float64Array(scripts), new Float64Array(markers)]
  for (let r = 0; r < mark.length; r++) {
    byScript[script[r]!]! += mark[r]!
    byMarker[marker[r]!]! += mark[r]!
  }
  return byScript[0]! + byMarker[0]!
}

/** Who leans among many markers, beside a bare pass over the same readings. */
export function benchMarkers(): void {
  console.log('markerEffects by restricted maximum likelihood, beside one bare pass over the same columns')
  for (const readings of [250_000, 500_000, 1_000_000]) {
    const set = shared(readings * 0.4, 300, readings)
    const t = takeTurns({ bare: () => bare(set), effects: () => markerEffects(set) })
    globalThis.gc?.()
    console.log(
      `  ${readings} readings, ${set.scripts} scripts, ${set.markers} markers: ${t.effects!.toFixed(0)} ms, ${(t.effects! / t.bare!).toFixed(0)} times the bare pass (aim: 3 s and 60 times at the most), ${(process.memoryUsage().rss / 2 ** 20).toFixed(0)} MB`,
    )
  }
}
