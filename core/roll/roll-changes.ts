import type { FileSection, RollFile } from '../exchange/roll-file'
import { shiftDay, shownDay, type Day } from './days'
import { foldedName } from './folded-name'
import type { NameParts } from './name-parts'
import { checkStays, currentSection, moveFrom, StayError, type Stay } from './stays'

export interface RollSection {
  id: string
  code: string
  name: string
  teacherId: string | null
  weekdays: number[]
  firstDay: Day | null
}

export interface RollStudent {
  id: string
  candidate: string
  name: string
  externalId: string | null
  /** By which they come in to see their own work; their external id where there is none. */
  signIn: string | null
  stays: Stay[]
}

export type RollOutcome = 'added' | 'changed' | 'moved' | 'back' | 'unchanged' | 'refused'

export interface RollRow {
  line: number
  column: string | null
  outcome: RollOutcome
  candidate: string
  name: string
  before: string
  after: string
  reason: string | null
}

/** A section or student as it will be; `id` is null where it is new. Stays name sections by their code in lower case. */
export interface RollChanges {
  rows: RollRow[]
  sections: { id: string | null; code: string; name: string; teacherId: string | null; weekdays: number[]; firstDay: Day | null }[]
  students: {
    id: string | null
    candidate: string
    name: string
    externalId: string | null
    signIn: string | null
    stays: { section: string; from: Day; to: Day | null }[]
  }[]
  /** Students in a section now whom the file does not have. */
  missing: string[]
  /** What was understood otherwise than written, in sentences. */
  notes: string[]
  /** How a roster knows what it brings: sections by their code in lower case, who teaches, and students by their number. */
  roster: {
    classes: { code: string; sourceId: string }[]
    teachers: { personId: string; sourceId: string }[]
    names: { candidate: string; parts: NameParts }[]
  }
}

/** Somebody who may teach a section; `sourceId` is the id by which rosters know them. */
export interface RollPerson {
  id: string
  name: string
  sourceId?: string | null
}

/**
 * What a file would do to a roll: nothing is done. A student is known by the external id, else by the candidate
 * number. Where the file says only which section a student is in, another one is a move from `from` on; where it
 * gives days, they are taken as they are. New students without a number get the next free ones. A file of changes moves, adds and
 * takes out whom it names, and nobody else is missing from it.
 */
export function rollChanges(
  roll: { sections: readonly RollSection[]; students: readonly RollStudent[]; people: readonly RollPerson[] },
  file: RollFile,
  from: Day,
): RollChanges {
  const changes: RollChanges = {
    rows: [],
    sections: [],
    students: [],
    missing: [],
    notes: [],
    roster: { classes: [], teachers: [], names: [] },
  }
  const delta = file.roster?.delta ?? false
  for (const f of file.faults) changes.rows.push({ ...f, outcome: 'refused', before: '', after: '' })
  const codes = new Map<string, { code: string }>(roll.sections.map((s) => [s.code.toLowerCase(), s]))
  const codeOf = new Map(roll.sections.map((s) => [s.id, s.code]))
  const byName = new Map(roll.sections.map((s) => [foldedName(s.name), s.code]))
  sectionChanges(roll, file.sections, byName, changes)
  for (const s of changes.sections) codes.set(s.code.toLowerCase(), s)
  const sectionOf = (stay: { section: string; to: Day | null } | undefined) =>
    stay?.to === null ? (codes.get(stay.section)?.code ?? stay.section) : 'withdrawn'
  /** A section's own code, whether the file gave code or name. */
  const coded = (text: string) => (codes.get(text.toLowerCase())?.code ?? byName.get(foldedName(text)) ?? text).toLowerCase()

  const byCandidate = new Map(roll.students.map((s) => [s.candidate.toLowerCase(), s]))
  const byExternal = new Map(roll.students.flatMap((s) => (s.externalId === null ? [] : [[s.externalId.toLowerCase(), s] as const])))
  let nextNumber =
    1 +
    Math.max(
      0,
      ...roll.students.map((s) => Number(s.candidate)).filter(Number.isInteger),
      ...file.entries.map((e) => Number(e.candidate)).filter(Number.isInteger),
    )
  const seen = new Map<string, number>()
  for (const e of file.entries) {
    const known =
      byExternal.get(e.externalId.toLowerCase()) ?? (e.candidate === '' ? undefined : byCandidate.get(e.candidate.toLowerCase()))
    const shown = (name: string, section: string) => `${name}, ${section}`
    const sectionNow = known ? currentSection(known.stays) : null
    let stays: RollChanges['students'][number]['stays'] = []
    const row = (outcome: RollOutcome, reason: string | null = null, column: string | null = null) =>
      changes.rows.push({
        line: e.line,
        column,
        outcome,
        candidate: e.candidate,
        name: e.name,
        before: known ? shown(known.name, sectionNow === null ? 'withdrawn' : (codeOf.get(sectionNow) ?? '')) : '',
        after: outcome === 'refused' ? '' : shown(e.name, sectionOf(stays.at(-1))),
        reason,
      })
    const owner = e.candidate === '' ? undefined : byCandidate.get(e.candidate.toLowerCase())
    if (owner && known && owner !== known) {
      row('refused', `The number ${e.candidate} is ${owner.name}’s, the external id is ${known.name}’s: mend one of them.`, 'candidate')
      continue
    }
    const keys = [known?.id, e.candidate && `number ${e.candidate.toLowerCase()}`, e.externalId && `id ${e.externalId.toLowerCase()}`]
    const taken = keys.find((k) => k && seen.has(k))
    if (taken) {
      row('refused', `This student’s number or id stands in line ${seen.get(taken)} already: keep one of them.`, 'candidate')
      continue
    }
    for (const k of keys) if (k) seen.set(k, e.line)
    // Of somebody else's classes.
    if (!known && e.stays.length === 0) continue
    try {
      const current = known?.stays ?? []
      const lower = (id: string) => codeOf.get(id)!.toLowerCase()
      stays = delta ? staysAfter(e, current, coded, lower, from) : staysOf(e.stays, current, coded, lower, from)
    } catch (error) {
      if (!(error instanceof StayError)) throw error
      row('refused', error.message, 'from')
      continue
    }
    const candidate = e.candidate || known?.candidate || String(nextNumber++)
    if (e.parts) changes.roster.names.push({ candidate, parts: e.parts })
    const externalId = e.externalId || (known?.externalId ?? null)
    const signIn = e.signIn || (known?.signIn ?? null)
    const sameStays =
      known &&
      stays.length === known.stays.length &&
      stays.every((s, i) => {
        const old = known.stays[i]!
        return s.section === codeOf.get(old.sectionId)!.toLowerCase() && s.from === old.from && s.to === old.to
      })
    const same =
      known && known.name === e.name && known.candidate === candidate && known.externalId === externalId && known.signIn === signIn
    if (known && same && sameStays) row('unchanged')
    else {
      changes.students.push({ id: known?.id ?? null, candidate, name: e.name, externalId, signIn, stays })
      if (!known) row('added', e.candidate === '' ? `gets the number ${candidate}` : null)
      else if (sameStays) row('changed', known.name === e.name ? (known.signIn === signIn ? 'number or id' : 'sign-in') : 'name')
      else if (sectionNow === null && stays.at(-1)!.to === null) row('back')
      else row('moved', stays.at(-1)!.to === null ? `from ${shownDay(stays.at(-1)!.from)}` : `until ${shownDay(stays.at(-1)!.to!)}`)
    }
  }
  // Of a roster of several courses only the classes that are read can lack somebody.
  const read = file.roster && new Set(file.sections.map((s) => coded(s.code)))
  changes.missing = delta
    ? []
    : roll.students
        .filter((s) => {
          const now = currentSection(s.stays)
          return now !== null && !seen.has(s.id) && (!read || read.has(codeOf.get(now)!.toLowerCase()))
        })
        .map((s) => s.id)
  return changes
}

/** The times in sections of somebody in a file of changes: into another section, out of one, or as they are. */
function staysAfter(
  { stays: wanted, leaves = [] }: RollFile['entries'][number],
  current: readonly Stay[],
  coded: (text: string) => string,
  codeOf: (sectionId: string) => string,
  from: Day,
): RollChanges['students'][number]['stays'] {
  const named = current.map((s) => ({ ...s, sectionId: codeOf(s.sectionId) }))
  const after = (stays: readonly Stay[]) => stays.map((s) => ({ section: s.sectionId, from: s.from, to: s.to }))
  const now = currentSection(named)
  const last = wanted.at(-1)
  if (!last) return after(now !== null && (leaves === 'all' || leaves.some((l) => coded(l) === now)) ? moveFrom(named, null, from) : named)
  const section = coded(last.section)
  if (last.to !== '') return after(now === section ? moveFrom(named, null, shiftDay(last.to, 1)) : named)
  return after(now === section ? named : moveFrom(named, section, last.from || from))
}

function staysOf(
  wanted: RollFile['entries'][number]['stays'],
  current: readonly Stay[],
  coded: (text: string) => string,
  codeOf: (sectionId: string) => string,
  from: Day,
): RollChanges['students'][number]['stays'] {
  const named = (stays: readonly Stay[]) => stays.map((s) => ({ section: codeOf(s.sectionId), from: s.from, to: s.to }))
  const last = wanted.at(-1)!
  if (wanted.length === 1 && last.from === '' && last.to === '') {
    const code = coded(last.section)
    const now = currentSection(current)
    if (now !== null && codeOf(now) === code) return named(current)
    // moveFrom knows sections by id; a new one has none yet, so its code stands for it.
    const moved = moveFrom(current, code, from)
    return moved.map((s) => ({ section: s.sectionId === code ? code : codeOf(s.sectionId), from: s.from, to: s.to }))
  }
  const stays = wanted.map((s) => ({ section: coded(s.section), from: s.from || from, to: s.to || null }))
  checkStays(stays.map((s) => ({ sectionId: s.section, from: s.from, to: s.to })))
  return stays
}

function sectionChanges(
  roll: { sections: readonly RollSection[]; people: readonly RollPerson[] },
  inFile: readonly FileSection[],
  byName: ReadonlyMap<string, string>,
  changes: RollChanges,
): void {
  const known = new Map(roll.sections.map((s) => [s.code.toLowerCase(), s]))
  const people = new Map(roll.people.map((p) => [foldedName(p.name), p.id]))
  const bySource = new Map(roll.people.flatMap((p) => (p.sourceId ? [[p.sourceId, p.id] as const] : [])))
  for (const s of inFile) {
    const old = known.get(s.code.toLowerCase()) ?? known.get(byName.get(foldedName(s.code))?.toLowerCase() ?? '')
    const teacherId = s.teacher === null ? null : (bySource.get(s.teacherSourceId ?? '') ?? people.get(foldedName(s.teacher)) ?? null)
    if (s.teacher !== null && teacherId === null)
      changes.notes.push(`${s.teacher}, who teaches ${s.code} in the file, is not among the course’s people: the teacher is left as it is.`)
    const next = {
      id: old?.id ?? null,
      code: old?.code ?? s.code,
      name: s.name ?? old?.name ?? s.code,
      teacherId: teacherId ?? old?.teacherId ?? null,
      weekdays: s.weekdays ?? old?.weekdays ?? [],
      firstDay: s.firstDay ?? old?.firstDay ?? null,
    }
    if (s.sourceId) changes.roster.classes.push({ code: next.code.toLowerCase(), sourceId: s.sourceId })
    if (teacherId && s.teacherSourceId) changes.roster.teachers.push({ personId: teacherId, sourceId: s.teacherSourceId })
    const same =
      old &&
      old.name === next.name &&
      old.teacherId === next.teacherId &&
      old.firstDay === next.firstDay &&
      old.weekdays.join() === next.weekdays.join()
    if (!same) changes.sections.push(next)
  }
}
