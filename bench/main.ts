import { benchFloor, benchFormulas } from './grade-course'

benchFloor(50_000)
benchFormulas(10_000)
