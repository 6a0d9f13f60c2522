import { hashKey } from '@tanstack/react-query'
import type { ForetoldCourse, Written } from './book'

/** Whether what was written since is what was foretold of marks on their way, and nothing else. */
export const isAsForetold = ({ cells }: Pick<ForetoldCourse, 'cells'>, written: Written): boolean =>
  written.plan === null && hashKey([written.cells]) === hashKey([cells])
