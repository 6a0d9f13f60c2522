import { useQuery, useQueryClient } from '@tanstack/react-query'
import { routes, type Pile } from '#contract'
import { call } from '../../../api/client'
import { useSignedIn } from '../../../session/ahead'
import { useLooking } from '../../../session/look'
import { useSaved } from '../../../saving/saved'
import { backupOf, begin, keptReadings } from './backup'

/**
 * Sends the readings that were kept in this browser and never reached the server, but for the one that is open on the desk.
 * @param piles by which it is known where marking is held
 * @returns those that still wait: changed meanwhile in another window, or refused; to open one is to choose
 */
export function useResend(
  courseId: string,
  open: { assessmentId: string; studentId: string } | null,
  piles: readonly Pick<Pile, 'assessmentId' | 'gate'>[] | undefined,
) {
  const me = useSignedIn()
  const looking = useLooking()
  const queries = useQueryClient()
  const { saving } = useSaved()
  const isHeld = (assessmentId: string) => piles?.some((p) => p.assessmentId === assessmentId && p.gate === 'held') ?? false
  const held = piles?.filter((p) => p.gate === 'held').map((p) => p.assessmentId)
  const waiting = useQuery({
    queryKey: ['kept readings', courseId, me.id, held],
    queryFn: async () => {
      const kept = keptReadings(me.id, courseId).filter((k) => k.assessmentId !== open?.assessmentId || k.studentId !== open.studentId)
      const left: typeof kept = []
      for (const k of kept) {
        // Where marking is held it would be refused, again and again: it waits until that is over.
        if (isHeld(k.assessmentId)) {
          left.push(k)
          continue
        }
        const params = { courseId, ...k }
        const backup = backupOf({ personId: me.id, ...params })
        const { own } = await call(routes.deskScript, { params })
        const was = backup.read()
        const { body, unsent, clash } = begin(own, was)
        if (unsent && was) {
          const { as, gapMeant, afterSeeing } = was
          const sent = saving(
            call(routes.keepReading, { params, body: { ...body, version: own.version, state: as, gapMeant, afterSeeing } }),
          )
          const done = await sent.then(
            () => true,
            () => false,
          )
          if (done) backup.drop()
          else left.push(k)
        } else if (clash) left.push(k)
        else if (was) backup.drop()
      }
      if (kept.length > 0) for (const key of ['pile', 'piles']) void queries.invalidateQueries({ queryKey: [key, courseId] })
      return left
    },
    enabled: !looking && piles !== undefined,
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  })
  return waiting.data ?? []
}
