import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
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
  besideLme4()
  for (const readings of [250_000, 500_000, 1_000_000]) {
    const set = shared(readings * 0.4, 300, readings)
    const t = takeTurns({ bare: () => bare(set), effects: () => markerEffects(set) })
    globalThis.gc?.()
    console.log(
      `  ${readings} readings, ${set.scripts} scripts, ${set.markers} markers: ${t.effects!.toFixed(0)} ms, ${(t.effects! / t.bare!).toFixed(0)} times the bare pass (aim: 3 s and 60 times at the most), ${(process.memoryUsage().rss / 2 ** 20).toFixed(0)} MB`,
    )
  }
}

/** The same model in R’s lme4, where it is installed (Debian: r-cran-lme4). It takes minutes. */
function besideLme4(): void {
  if (spawnSync('Rscript', ['-e', 'library(lme4)']).status !== 0) {
    console.log('  beside lme4::lmer: left out, as R with lme4 is not installed here')
    return
  }
  const set = shared(40_000, 300, 100_000)
  const { effects } = takeTurns({ effects: () => markerEffects(set) })
  const own = markerEffects(set)!
  const folder = mkdtempSync(join(tmpdir(), 'level-table-lme4-'))
  try {
    const rows = Array.from(set.mark, (mark, r) => `${set.script[r]},${set.marker[r]},${mark}`)
    writeFileSync(join(folder, 'readings.csv'), ['script,marker,mark', ...rows].join('\n'))
    const said = execFileSync('Rscript', ['bench/lme4.R', folder], { encoding: 'utf8' })
    const [seconds, sdScript, sdError] = said.trim().split(' ').map(Number) as [number, number, number]
    const theirs = readFileSync(join(folder, 'effects.csv'), 'utf8').trim().split('\n').slice(1)
    const apart = theirs.map((line) => {
      const [marker, effect] = line.replaceAll('"', '').split(',').map(Number) as [number, number]
      return Math.abs(own.markers[marker]!.effect! - effect)
    })
    const sds = [own.sdScript! / sdScript, own.sdError! / sdError].map((x) => Math.abs(x - 1).toExponential(1))
    console.log(
      `  100000 readings, 40000 scripts, 300 markers: ${effects!.toFixed(0)} ms; lme4::lmer ${seconds.toFixed(0)} s, ${((1000 * seconds) / effects!).toFixed(0)} times as long (aim: 500 or more)`,
    )
    console.log(
      `    effects differ by ${Math.max(...apart).toExponential(1)} marks at most (aim: 1e-6), both sd by ${sds.join(' and ')} of themselves`,
    )
  } finally {
    rmSync(folder, { recursive: true })
  }
}
