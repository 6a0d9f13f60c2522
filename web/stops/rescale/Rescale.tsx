import { useSearchParams } from 'react-router'
import { Ideas } from '../../parts/ideas/Ideas'
import { useParts } from '../../parts/useParts'
import { MarksPart } from './MarksPart'
import { TOTAL } from './subject'
import { CommonWeights } from './weights/CommonWeights'

const PARTS = ['marks', 'common weights', 'the total', 'ideas'] as const

const IDEAS = {
  title: 'Ideas side by side',
  one: 'idea',
  how: 'Try something at marks, common weights or the total, and keep it here beside others.',
}

/** What was too hard, too easy or marked on another scale; what each assessment decides; and ideas side by side. */
export default function Rescale() {
  const [search, setSearch] = useSearchParams()
  const { shown, nav } = useParts('Rescale', PARTS, ']', ['of'])
  if (shown === 'common weights') return <CommonWeights nav={nav} />
  if (shown === 'ideas') return <Ideas nav={nav} stop="rescale" words={IDEAS} />
  const of = shown === 'the total' ? TOTAL : search.get('of')
  return (
    <MarksPart
      key={shown}
      nav={nav}
      subjectId={of}
      onSubject={(to) => setSearch({ of: to }, { replace: true })}
      wanted={search.get('how')}
    />
  )
}
