import { useSearchParams } from 'react-router'
import { useDecidedCourse } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { WHOLE_COURSE } from '../../parts/of-what'
import { WritesProvider } from '../../saving/writes'
import { KINDS, kindOf, type Kind } from './kinds'
import { Criteria } from './criteria/Criteria'
import { Markers } from './markers/Markers'
import { Sections } from './sections/Sections'
import { Years } from './years/Years'

const VIEWS: Record<Kind, typeof Sections> = { sections: Sections, markers: Markers, criteria: Criteria, years: Years }

/** Who is out of level: sections, markers, criteria or years, in an assessment, a component or the course. */
export default function Compare() {
  const { id, table } = useDecidedCourse()
  const [search, setSearch] = useSearchParams()
  const kind = kindOf(search.get('rows'))
  const of = search.get('of') ?? table.assessments.find((a) => a.readingsWanted === 2)?.id ?? WHOLE_COURSE
  const show = (changed: { rows?: Kind; of?: string }) => setSearch({ rows: kind, of, ...changed }, { replace: true })
  const stepOf = (by: number) => {
    const order = [WHOLE_COURSE, ...table.components.map((c) => c.id), ...table.assessments.map((a) => a.id)]
    const next = order[order.indexOf(of) + by]
    if (next) show({ of: next })
  }
  useKeys([
    {
      key: 'r',
      does: 'other rows: sections, markers, criteria, years',
      run: () => show({ rows: KINDS[(KINDS.indexOf(kind) + 1) % KINDS.length]! }),
    },
    { key: ']', does: 'next assessment', run: () => stepOf(1) },
    { key: '[', does: 'assessment before', run: () => stepOf(-1) },
  ])
  if (!table.hasMarks)
    return <div className="empty">There are no marks yet. When they come in at Mark, every section is drawn here on one axis.</div>
  const View = VIEWS[kind]
  return (
    <WritesProvider courseId={id}>
      <View subject={of} onShow={show} />
    </WritesProvider>
  )
}
