import { useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import type { LevelCounts } from '#core/outcomes'
import { routes, type CourseOutcome, type CourseOutcomes } from '#contract'
import { call, messageOf } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { useSaved } from '../../../saving/saved'
import { counted, share } from '../../../parts/format'
import { ruleInWords } from '../outcome-words'
import { RuleFields } from '../RuleFields'
import type { OtherStanding, TriedRule } from './figures'
import type { Who } from './who'
import type { Groups } from './useGroups'
import { MarksByIt } from './MarksByIt'
import { OutcomeHere } from './OutcomeHere'
import { reachedOf, SharesTable } from './SharesTable'
import { ThesePeople } from './ThesePeople'

interface Props {
  outcome: CourseOutcome
  given: CourseOutcomes
  shares: { all: LevelCounts; sections: { id: string; counts: LevelCounts }[] }
  /** Who would stand otherwise by the rule that is tried. */
  moved: OtherStanding[] | null
  tried: TriedRule | null
  onTry: (rule: TriedRule | null) => void
  who: Who
  onWho: (who: Who) => void
  /** Takes the list out. */
  takeOut: ReactNode
  /** Those that are listed. */
  people: { id: string; value: number }[]
  groups: Groups
  onChanged: () => Promise<void>
}

/** One outcome: who reaches it, section by section, what gives evidence of it, its rule to be tried, and the people listed. */
export function OutcomeCloseUp({ outcome, given, shares, moved, tried, onTry, who, onWho, people, takeOut, groups, onChanged }: Props) {
  const { id, table, mayDecide } = useDecidedCourse()
  const { saving } = useSaved()
  const [problem, setProblem] = useState<string | null>(null)
  const from = `${outcome.levels[outcome.reached - 1]?.label}${outcome.reached < outcome.levels.length ? ' or better' : ''}`
  const title = new Map(table.assessments.map((a) => [a.id, a.title]))
  const links = given.links.filter((l) => l.outcomeId === outcome.id)
  const all = reachedOf(shares.all)
  const does = async (work: () => Promise<unknown>) => {
    setProblem(null)
    try {
      await saving(work())
      await onChanged()
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const setRule = () => {
    const { statement, levels, reached, group } = outcome
    return does(async () => {
      await call(routes.editStandard, {
        params: { courseId: id, standardId: outcome.id },
        body: {
          revision: outcome.revision,
          standard: {
            kind: 'outcome',
            title: outcome.title,
            body: { statement, levels, reached, rule: tried!.rule, ...(group && { group }) },
          },
        },
      })
      onTry(null)
    })
  }
  return (
    <>
      <section>
        <h2>{outcome.title}</h2>
        <p className="soft small mb-1">{outcome.statement}</p>
        <p>
          <b>{share(all)}</b> {from}. Seen in{' '}
          {links.length === 0
            ? 'what was noted by hand'
            : [...new Set(links.map((l) => `${title.get(l.assessmentId)} (${l.title})`))].join(', ')}
          .{shares.all.none > 0 && ` ${counted(shares.all.none, 'student')} without enough evidence.`}
        </p>
        <SharesTable outcomeId={outcome.id} levels={outcome.levels.length} from={from} shares={shares} />
      </section>
      <section>
        <h2>Its rule</h2>
        <p className="mb-1">{ruleInWords(outcome.rule)}</p>
        <RuleFields
          label="Try another rule"
          rule={tried?.rule ?? outcome.rule}
          onRule={(rule) => {
            onTry({ outcomeId: outcome.id, rule })
            if (who.kind === 'moved') onWho({ kind: 'all' })
          }}
        />
        {tried && (
          <p className="mt-1" aria-live="polite">
            {moved === null ? 'Working it out…' : otherwiseInWords(moved, from)}{' '}
            {moved !== null && moved.length > 0 && (
              <Button size="sm" variant="link" className="p-0" onClick={() => onWho({ kind: 'moved' })}>
                See who
              </Button>
            )}{' '}
            {mayDecide && outcome.mine && (
              <Button size="sm" variant="link" className="p-0" onClick={() => void setRule()}>
                Set it so
              </Button>
            )}{' '}
            <Button
              size="sm"
              variant="link"
              className="p-0"
              onClick={() => {
                onTry(null)
                if (who.kind === 'moved') onWho({ kind: 'all' })
              }}
            >
              Leave it
            </Button>
            {!outcome.mine && <span className="soft small d-block">It is {outcome.owner}’s: suggest it in the library.</span>}
          </p>
        )}
      </section>
      <ThesePeople people={people} takeOut={takeOut} who={who} onWho={onWho} outcome={outcome} groups={groups} />
      <OutcomeHere outcome={outcome} judged={given.judged} onChanged={onChanged} />
      <MarksByIt outcome={outcome} />
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </>
  )
}

function otherwiseInWords(moved: readonly OtherStanding[], from: string): string {
  const [more, fewer] = [moved.filter((m) => m.reached && !m.reachedWas).length, moved.filter((m) => !m.reached && m.reachedWas).length]
  if (moved.length === 0) return 'By that nobody would stand otherwise.'
  const parts = [
    more > 0 && `${more} more would be ${from}`,
    fewer > 0 && `${fewer} fewer`,
    more + fewer === 0 && `${counted(moved.length, 'student')} would stand at another level`,
  ]
  return `By that ${parts.filter(Boolean).join(', ')}.`
}
