import { routes } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import type { Handle } from '../../kernel/http'
import type { Keeper } from './schedule'
import { HttpProblem } from '../../kernel/problem'

/** Backups, for whoever administers the installation. */
export function keepingRoutes(handle: Handle, keeper: Keeper, audit: AuditList): void {
  handle(routes.keeping, () => keeper.state())
  handle(routes.backUp, async ({ me }) => {
    try {
      const { name } = await keeper.backUpNow()
      audit.note({ kind: 'backup', by: me.id, words: name })
    } catch (e) {
      const why = e instanceof Error ? e.message : String(e)
      audit.note({ kind: 'backup', by: me.id, words: `failed: ${why}` })
      throw new HttpProblem(503, `The backup was not made: ${why}`)
    }
    return keeper.state()
  })
}
