import { useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useCombobox, type UseComboboxStateChangeTypes } from 'downshift'
import { useMemo, useRef, useState, type ChangeEvent } from 'react'
import { Form } from 'react-bootstrap'
import { useNavigate } from 'react-router'
import { sightOf } from '#core/roles'
import { foldedName } from '#core/roll'
import type { CourseHead, Pile, PileScript, SheetByCell } from '#contract'
import type { Adopted } from '../course/store'
import { useKeys } from '../settings/keys'
import { useNames } from '../settings/names'
import styles from './find.module.css'
import { RUN, STOPS } from './stops'
import { KeyCap } from '../settings/KeyCap'

interface Found {
  label: string
  kind: string
  to: string
}

const SHOWN = 10
const NOTHING = 'Nothing here is called that.'

const LEFT = useCombobox.stateChangeTypes.InputBlur
const ENDS = new Set<UseComboboxStateChangeTypes>([
  LEFT,
  useCombobox.stateChangeTypes.InputKeyDownEnter,
  useCombobox.stateChangeTypes.InputKeyDownEscape,
  useCombobox.stateChangeTypes.ItemClick,
])

/** What begins with the words comes first, then what has a word that does. */
const rank = (label: string, wanted: string): number => {
  const at = ` ${label}`.indexOf(` ${wanted}`)
  return at === 0 ? 0 : at > 0 ? 1 : 2
}

/** A marker's scripts, of the piles that they have opened. */
function pilesOf(queries: QueryClient, base: string, courseId: string): Found[] {
  const titles = new Map(queries.getQueryData<Pile[]>(['piles', courseId])?.map((p) => [p.assessmentId, p.title]))
  return queries.getQueriesData<PileScript[]>({ queryKey: ['pile', courseId] }).flatMap(([[, , of], pile]) =>
    (pile ?? []).map((s) => ({
      label: s.label,
      kind: titles.get(String(of)) ?? 'script',
      to: `${base}/mark/desk?of=${encodeURIComponent(String(of))}&script=${encodeURIComponent(s.studentId)}`,
    })),
  )
}

/** Finds people, assessments and places to go. */
export function Find({ course }: { course: CourseHead }) {
  const [text, setText] = useState('')
  const field = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const { shown } = useNames()
  useKeys([{ key: '/', does: 'find a person, an assessment, a stop', run: () => field.current?.focus() }])

  const isAsking = text.trim() !== ''
  const all = useMemo((): (Found & { folded: string })[] => {
    if (!isAsking) return []
    const base = `/courses/${course.id}`
    const table = queries.getQueryData<Adopted>(['table', course.id])?.table
    const sheet = queries.getQueryData<SheetByCell>(['sheet', course.id])
    const people = !sightOf(course.role).oversees
      ? pilesOf(queries, base, course.id)
      : (table?.students ?? sheet?.students ?? []).map((s): Found => ({
          label: shown === 'names' ? `${s.name} · ${s.candidate}` : s.candidate,
          kind: 'student',
          to: `${base}/students/${s.id}`,
        }))
    const work = (table?.assessments ?? []).map((a): Found => ({
      label: a.title,
      kind: 'compare',
      to: `${base}/compare?of=${encodeURIComponent(a.id)}`,
    }))
    const places = [
      ...RUN.map((stop): Found => ({ label: STOPS[stop].title, kind: 'go to', to: `${base}/${stop}` })),
      { label: 'The record', kind: 'go to', to: `${base}/record` },
    ]
    return [...places, ...work, ...people].map((f) => ({ ...f, folded: foldedName(f.label) }))
  }, [isAsking, course.id, course.role, queries, shown])
  const found = useMemo((): Found[] => {
    const wanted = foldedName(text)
    if (wanted === '') return []
    return all
      .filter((f) => f.folded.includes(wanted))
      .sort((a, b) => rank(a.folded, wanted) - rank(b.folded, wanted))
      .slice(0, SHOWN)
  }, [text, all])

  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox({
    items: found,
    inputValue: text,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    itemToString: (f) => f?.label ?? '',
    itemToKey: (f) => f?.to,
    getA11yStatusMessage: () => (!isAsking ? '' : found.length === 0 ? NOTHING : `${found.length} found.`),
    // Whatever ends the search leaves the field empty; leaving it takes nothing.
    stateReducer: (_, { type, changes }) =>
      ENDS.has(type) ? { ...changes, inputValue: '', ...(type === LEFT && { selectedItem: null }) } : changes,
    // What is typed is taken as it comes, by the field itself: told later, letters typed fast would be lost.
    onInputValueChange: ({ type }) => ENDS.has(type) && setText(''),
    onSelectedItemChange: ({ selectedItem }) => {
      if (!selectedItem) return
      field.current?.blur()
      void navigate(selectedItem.to)
    },
  })
  return (
    <div className={styles.find} role="search">
      <Form.Control
        {...getInputProps({
          ref: field,
          placeholder: 'Find a person, an assessment',
          'aria-label': 'Find a person, an assessment, a stop',
          onChange: (e: ChangeEvent<HTMLInputElement>) => setText(e.target.value),
          onKeyDown: (e) => {
            if (e.key === 'Escape') field.current?.blur()
          },
        })}
      />
      {text === '' && <KeyCap cap="/" quiet />}
      <div className={styles.list} hidden={!isAsking}>
        {found.length === 0 && <p className="soft">{NOTHING}</p>}
        <ul {...getMenuProps({ 'aria-label': 'Found' })}>
          {found.map((f, index) => (
            <li key={f.to} {...getItemProps({ item: f, index, 'aria-selected': index === highlightedIndex })}>
              <span>{f.label}</span>
              <span className="soft small">{f.kind}</span>
            </li>
          ))}
        </ul>
      </div>
    </div>
  )
}
