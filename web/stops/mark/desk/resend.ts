import { useQuery, useQueryClient } from '@tanstack/react-query'
import { routes } from '#contract'
import { call } from '../../../api/client'
import { useSignedIn } from '../../../session/ahead'
import { useLooking } from '../../../session/look'
import { useSaved } from '../../../saving/saved'
import { backupOf, begin, keptReadings } from './backup'

/**
 * Sends the readings that were kept in this browser and never reached the server, but for the one that is open on the desk.
 * @returns those that still wait: changed meanwhile in another window, or refused; to open one is to choose
 */
export function useResend(courseId: string, open: { assessmentId: string; studentId: string } | null) {
  const me = useSignedIn()
  const looking = useLooking()
  const queries = useQueryClient()
  const { saving } = useSaved()
  const waiting = useQuery({
    queryKey: ['kept readings', courseId, me.id],
    queryFn: async () => {
      const kept = keptReadings(me.id, courseId).filter((k) => k.assessmentId !== open?.assessmentId || k.studentId !== open.studentId)
      const left: typeof kept = []
      for (const k of kept) {
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
    enabled: !looking,
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  })
  return waiting.data ?? []
}
