import { benchFloor, benchFormulas } from './grade-course'
import { benchSave } from './save'
import { benchSetOut } from './set-out'

benchFloor(50_000)
benchFormulas(10_000)
await benchSetOut()
await benchSave()
