import { useSearchParams } from 'react-router'
import { useKeys } from '../../settings/keys'
import { Ideas } from '../../parts/ideas/Ideas'
import { MarksPart } from './MarksPart'
import { TOTAL } from './subject'
import { CommonWeights } from './weights/CommonWeights'

const PARTS = ['marks', 'common weights', 'the total', 'ideas'] as const
export type RescalePart = (typeof PARTS)[number]
const IN_ADDRESS: Record<RescalePart, string | null> = { marks: null, 'common weights': 'weights', 'the total': 'total', ideas: 'ideas' }

const IDEAS = {
  title: 'Ideas side by side',
  one: 'idea',
  how: 'Try something at marks, common weights or the total, and keep it here beside others.',
}

/** What was too hard, too easy or marked on another scale; what each assessment decides; and ideas side by side. */
export default function Rescale() {
  const [search, setSearch] = useSearchParams()
  const shown = PARTS.find((p) => IN_ADDRESS[p] === search.get('part')) ?? 'marks'
  const go = (to: RescalePart) => {
    const part = IN_ADDRESS[to]
    const of = search.get('of')
    setSearch({ ...(part !== null && { part }), ...(of !== null && { of }) }, { replace: true })
  }
  useKeys([{ key: ']', does: 'the next part of this stop', run: () => go(PARTS[(PARTS.indexOf(shown) + 1) % PARTS.length]!) }])
  const nav = (
    <div className="words-choice end" role="group" aria-label="Parts of Rescale">
      {PARTS.map((p) => (
        <button key={p} aria-pressed={p === shown} onClick={() => go(p)}>
          {p}
        </button>
      ))}
    </div>
  )
  if (shown === 'common weights') return <CommonWeights nav={nav} />
  if (shown === 'ideas') return <Ideas nav={nav} stop="rescale" words={IDEAS} />
  const of = shown === 'the total' ? TOTAL : search.get('of')
  return <MarksPart key={shown} nav={nav} of={of} onOf={(to) => setSearch({ of: to }, { replace: true })} wanted={search.get('how')} />
}
