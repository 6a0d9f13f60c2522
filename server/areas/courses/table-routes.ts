import { routes } from '#contract'
import type { sessions } from '../../kernel/access/sessions'
import type { Db } from '../../kernel/db/open'
import { tokenOf, type Handle } from '../../kernel/http'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { packedTable } from '../../kernel/course/packed-table'
import { tableSince } from '../../kernel/course/table-since'

const HEARTBEAT_MS = 25_000

export function tableRoutes(
  handle: Handle,
  db: Db,
  plans: PlanLoader,
  tables: TableLoader,
  writes: CourseWrites,
  signIns: ReturnType<typeof sessions>,
): void {
  const hasPart = db.prepare<[string, string]>('SELECT 1 FROM course_role WHERE course_id = ? AND person_id = ?')
  handle(routes.plan, ({ params, role }) => {
    const { plan } = plans.load(params.courseId)
    return { ...plan, head: { ...plan.head, role } }
  })

  handle(routes.table, async ({ params, role }) => {
    const table = await tables.loadInTurns(params.courseId)
    return { ...(await packedTable(table)), head: { ...table.head, role } }
  })

  const since = tableSince(tables, writes)
  handle(routes.tableSince, ({ params: { courseId, version }, role }) => since(courseId, version, role))

  handle(routes.events, ({ params, me, req, res }) => {
    res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' })
    res.write(`data: ${plans.load(params.courseId).plan.version}\n\n`)
    const say = (words: string) => {
      res.write(`${words}\n\n`)
      ;(res as { flush?: () => void }).flush?.()
    }
    // A part that is taken away is a change of the course: with it ends what is heard of it.
    const off = writes.onChange(params.courseId, (version) => (hasPart.get(params.courseId, me.id) ? say(`data: ${version}`) : res.end()))
    const offMaking = writes.onMaking(params.courseId, (step) => say(`event: making\ndata: ${step}`))
    const token = tokenOf(req)!
    // Whoever has signed out hears nothing any more, and whose session has run out neither.
    const offEnd = signIns.onEnd(token, () => res.end())
    const beat = setInterval(() => (signIns.who(token) ? res.write(': still here\n\n') : res.end()), HEARTBEAT_MS)
    res.on('close', () => {
      off()
      offMaking()
      offEnd()
      clearInterval(beat)
    })
    return undefined
  })
}
