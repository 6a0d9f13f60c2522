import { benchFloor, benchFormulas } from './grade-course'
import { benchHolds } from './holds'
import { benchHostile } from './hostile'
import { benchMarkers } from './markers'
import { benchSave } from './save'
import { benchSetOut } from './set-out'
import { benchSheet } from './sheet'
import { benchStops } from './stops'

const ALL = {
  grading: () => {
    benchFloor(50_000)
    benchFormulas(10_000)
  },
  markers: benchMarkers,
  'set-out': benchSetOut,
  save: benchSave,
  hostile: benchHostile,
  holds: benchHolds,
  sheet: benchSheet,
  stops: benchStops,
}

// `npm run bench -- save sheet` runs these alone.
const named = process.argv.slice(2)
for (const [name, run] of Object.entries(ALL)) if (named.length === 0 || named.includes(name)) await run()
