import { useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useId, useMemo, useRef, useState } from 'react'
import { Form } from 'react-bootstrap'
import { useNavigate } from 'react-router'
import { sightOf } from '#core/roles'
import type { CourseHead, Pile, PileScript, SheetInColumns } from '#contract'
import type { Adopted } from '../course/store'
import { useKeys } from '../settings/keys'
import { useNames } from '../settings/names'
import { RUN, STOPS } from './stops'
import { KeyCap } from '../settings/KeyCap'

interface Found {
  label: string
  kind: string
  to: string
}

const SHOWN = 10

/** What begins with the words comes first, then what has a word that does. */
const rank = (label: string, wanted: string): number => {
  const at = ` ${label.toLowerCase()}`.indexOf(` ${wanted}`)
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
  const [at, setAt] = useState(0)
  const field = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const { shown } = useNames()
  const list = useId()
  useKeys([{ key: '/', does: 'find a person, an assessment, a stop', run: () => field.current?.focus() }])

  const found = useMemo((): Found[] => {
    const wanted = text.trim().toLowerCase()
    if (!wanted) return []
    const base = `/courses/${course.id}`
    const table = queries.getQueryData<Adopted>(['table', course.id])?.table
    const sheet = queries.getQueryData<SheetInColumns>(['sheet', course.id])
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
    return [...places, ...work, ...people]
      .filter((f) => f.label.toLowerCase().includes(wanted))
      .sort((a, b) => rank(a.label, wanted) - rank(b.label, wanted))
      .slice(0, SHOWN)
  }, [text, course.id, course.role, queries, shown])

  const go = (f: Found | undefined) => {
    if (!f) return
    setText('')
    field.current?.blur()
    void navigate(f.to)
  }
  return (
    <div className="find" role="search">
      <Form.Control
        ref={field}
        value={text}
        placeholder="Find a person, an assessment"
        aria-label="Find a person, an assessment, a stop"
        role="combobox"
        aria-expanded={found.length > 0}
        aria-controls={list}
        aria-activedescendant={found[at] ? `${list}-${at}` : undefined}
        onChange={(e) => {
          setText(e.target.value)
          setAt(0)
        }}
        onBlur={() => setText('')}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') setAt((n) => Math.min(n + 1, found.length - 1))
          else if (e.key === 'ArrowUp') setAt((n) => Math.max(n - 1, 0))
          else if (e.key === 'Enter') go(found[at])
          else if (e.key === 'Escape') field.current?.blur()
          else return
          e.preventDefault()
        }}
      />
      {text === '' && <KeyCap of="/" quiet />}
      {text.trim() !== '' && (
        <ul className="find-list" id={list} role="listbox" aria-label="Found">
          {found.length === 0 && <li className="soft">Nothing here is called that.</li>}
          {found.map((f, i) => (
            <li
              key={f.to}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === at}
              onMouseDown={(e) => {
                e.preventDefault()
                go(f)
              }}
            >
              <span>{f.label}</span>
              <span className="soft small">{f.kind}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
