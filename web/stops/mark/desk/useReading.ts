import { useQueryClient } from '@tanstack/react-query'
import { useMemo, useRef, useState } from 'react'
import { routes, type DeskScript, type ReadingBody } from '#contract'
import { call, messageOf, ProblemError } from '../../../api/client'
import { useOutbox } from '../../../saving/useOutbox'
import { useSignedIn } from '../../../session/ahead'
import { useLooking } from '../../../session/look'
import { backupOf, begin, bodyOf, Current, sameReading, type Backup } from './backup'

const KEEP_AFTER_MS = 500
const UNANSWERED = 5
const DRAFT = { as: 'draft', gapMeant: false, afterSeeing: false } as const
type Meant = Pick<Backup, 'as' | 'gapMeant' | 'afterSeeing'>

/**
 * One's own reading of the script on the desk: what is on screen is ahead of what is saved. It saves as one goes, also over a reload
 * and a lost connection, and goes off as what it was: handed in stays handed in. Changed in another window meanwhile, it is held
 * until one has chosen.
 */
export function useReading(courseId: string, script: DeskScript) {
  const queries = useQueryClient()
  const me = useSignedIn()
  const ids = useMemo(
    () => ({ courseId, assessmentId: script.assessment.id, studentId: script.studentId }),
    [courseId, script.assessment.id, script.studentId],
  )
  const backup = useMemo(() => backupOf({ personId: me.id, ...ids }), [me.id, ids])
  const looking = useLooking()
  const [kept] = useState(() => (looking ? null : backup.read()))
  const [first] = useState(() => begin(script.own, kept))
  const [own, setOwn] = useState({ state: script.own.state, mark: script.own.mark })
  const version = useRef(script.own.version)
  const [body, setBody] = useState(first.body)

  const [outbox, { waiting, problem, clash }] = useOutbox<Backup, Awaited<ReturnType<typeof keepReading>>, Current>(
    backup.name,
    me.id,
    {
      nameOf: () => 'reading',
      after: KEEP_AFTER_MS,
      merge: (next, before) => ({ ...next, version: before.version, unanswered: before.unanswered }),
      send: ([reading]) => keepReading(ids, reading!),
      rebase: (next, _, { version }) => ({ ...next, version, unanswered: [] }),
      answered(done) {
        version.current = done.version
        setOwn(done)
        for (const key of ['pile', 'piles']) void queries.invalidateQueries({ queryKey: [key, courseId] })
      },
      unanswered: (now, sent) => ({ ...now, unanswered: [...now.unanswered, sent.body].slice(-UNANSWERED) }),
      conflict(e, sent) {
        const there = e instanceof ProblemError ? Current.safeParse(e.problem.current).data : undefined
        if (!there) return null
        // It had arrived after all, only the answer had not: what is here goes on top of it.
        const arrived = sent.unanswered.some((before) => sameReading(before, bodyOf(there)))
        return arrived ? { again: { ...sent, version: there.version, unanswered: [] } } : { there }
      },
      keep: ([reading]) => (reading ? backup.keep(reading) > 0 : (backup.drop(), true)),
    },
    () => ({ entries: kept && (first.unsent || first.clash) ? [{ ...kept, body: first.body }] : [], clash: first.clash }),
  )

  const as = (meant: Meant, next = body): Backup => ({ version: version.current, unanswered: [], body: next, ...meant })
  const edit = (next: ReadingBody) => {
    setBody(next)
    outbox.put([as(DRAFT, next)])
  }
  const settleClash = (whose: 'mine' | 'theirs') => {
    if (!clash) return
    version.current = clash.version
    if (whose === 'theirs') {
      setOwn((now) => ({ ...now, state: clash.state }))
      setBody(bodyOf(clash))
    }
    outbox.settle(whose, (reading, there) => ({ ...reading, version: there.version }))
  }

  return {
    body,
    state: own.state,
    /** As the server reckoned it; null where points are hidden or something is not judged. */
    mark: own.mark,
    problem: problem === null || clash ? null : messageOf(problem),
    /** What stands on the server instead, changed in another window; nothing is sent until one has chosen. */
    clash,
    settleClash,
    edit,
    handIn: (gapMeant: boolean) => outbox.putNow(as({ as: 'handed in', gapMeant, afterSeeing: false })),
    /** @param afterSeeing others' readings were seen, and that is said to the lead */
    takeBack: (afterSeeing: boolean) => outbox.putNow(as({ ...DRAFT, afterSeeing })),
    /** It is handed in here and waits for the server. */
    waitsToBeHandedIn: problem !== null && waiting.get('reading')?.as === 'handed in',
  }
}

const keepReading = (
  params: { courseId: string; assessmentId: string; studentId: string },
  { body, version, as: state, gapMeant, afterSeeing }: Backup,
) => call(routes.keepReading, { params, body: { ...body, version, state, gapMeant, afterSeeing } })
