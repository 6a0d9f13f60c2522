import { RULE_WORDS, type AgreeRule } from '#core/agree'
import type { ScriptWord } from '#contract'
import { numeral, shownAt } from './format'

const because = (rule: AgreeRule | null): string => (rule && (rule.kind === 'value' || rule.kind === 'criteria') ? rule.reason : '')

/** What was agreed on a script before: by whom, when, by which rule, why, and on which readings. */
export function Said({ words, outOf }: { words: readonly ScriptWord[]; outOf: number }) {
  if (words.length === 0) return null
  return (
    <section>
      <h2>Agreed so far</h2>
      <ul className="list-unstyled mb-0">
        {words.map((w) => (
          <li key={w.at} className={w.inForce && w.holds ? 'mb-2' : 'mb-2 soft'}>
            {w.rule === null || w.mark === null ? (
              <b>opened again</b>
            ) : (
              <>
                <b>
                  {numeral(w.mark)} of {numeral(outOf)}
                </b>{' '}
                by {RULE_WORDS[w.rule.kind]}
              </>
            )}
            , {w.by}, {shownAt(w.at, 'd MMM, HH:mm')}
            {!w.inForce && ' · another word came after it'}
            {w.inForce && !w.holds && <span className="ochre"> · its readings changed since, so it is open again</span>}
            <span className="d-block small">
              {[because(w.rule), w.reason].filter(Boolean).join(' · ')}
              {w.readings.length > 0 && (
                <span className="soft"> (readings then: {w.readings.map((r) => `${r.marker} ${numeral(r.mark)}`).join(', ')})</span>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
