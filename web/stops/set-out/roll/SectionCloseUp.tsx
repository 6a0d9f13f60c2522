import { Link } from 'react-router'
import { Form } from 'react-bootstrap'
import { currentSection } from '#core/roll'
import { routes, type Plan, type Roll, type RollSection } from '#contract'
import { addressOf } from '../../../api/client'
import { counted } from '../../../parts/format'
import { TitleField } from '../../../parts/TitleField'
import type { RollEdits } from './edits'
import { WeekdayChoice } from './WeekdayChoice'
import { DateField } from '../../../parts/DateField'

export function SectionCloseUp({ section: s, roll, plan, edits }: { section: RollSection; roll: Roll; plan: Plan; edits: RollEdits }) {
  const { mayEdit } = edits
  const students = roll.students.filter((x) => currentSection(x.stays) === s.id).length
  const dated = plan.placements.filter(([, at, due]) => plan.sections[at]?.id === s.id && due !== null).length
  return (
    <section>
      <h2>{s.name}</h2>
      <dl className="fields">
        <dt>code</dt>
        <dd>
          <TitleField
            label={`Code of ${s.name}`}
            value={s.code}
            disabled={!mayEdit}
            onCommit={(code) => void edits.editSection(s, { code })}
          />
        </dd>
        <dt>name</dt>
        <dd>
          <TitleField
            label={`Name of ${s.name}`}
            value={s.name}
            disabled={!mayEdit}
            onCommit={(name) => void edits.editSection(s, { name })}
          />
        </dd>
        <dt>
          <label htmlFor="teacher">taught by</label>
        </dt>
        <dd>
          <Form.Select
            id="teacher"
            size="sm"
            value={s.teacherId ?? ''}
            disabled={!mayEdit}
            onChange={(e) => void edits.editSection(s, { teacherId: e.target.value || null })}
          >
            <option value="">nobody yet</option>
            {roll.people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Form.Select>
        </dd>
        <dt>meets on</dt>
        <dd>
          <WeekdayChoice value={s.weekdays} disabled={!mayEdit} onChange={(weekdays) => void edits.editSection(s, { weekdays })} />
        </dd>
        <dt>
          <label htmlFor="starts">first day</label>
        </dt>
        <dd>
          <DateField
            id="starts"
            value={s.firstDay ?? ''}
            term={plan.head}
            disabled={!mayEdit}
            onCommit={(day) => void edits.editSection(s, { firstDay: day || null })}
          />
        </dd>
      </dl>
      <p className="soft">
        {counted(students, 'student')}, {counted(dated, 'due day')}.{' '}
        <a href={addressOf(routes.sectionCalendar, { courseId: plan.head.id, sectionId: s.id })} download>
          Its due days as a calendar
        </a>
        {' · '}
        <Link to={`/class/${plan.head.id}/${s.id}`}>For the class to look at</Link>
        {s.teacherId && (
          <>
            {' · '}
            <a href={addressOf(routes.personCalendar, { courseId: plan.head.id, personId: s.teacherId })} download>
              All that {s.teacher} teaches
            </a>
          </>
        )}
      </p>
    </section>
  )
}
