import type { RubricBody, ScaleBody, SchemeBody } from '#contract'

export const MAP_RUBRIC: RubricBody = {
  criteria: [
    {
      id: 'purpose',
      title: 'Purpose and reader',
      ranges: false,
      penalty: false,
      levels: [
        { points: 0, words: 'no reader in mind' },
        { points: 3, words: 'a reader is named' },
        { points: 6, words: 'choices serve the reader' },
        { points: 8, words: 'every choice does' },
      ],
    },
    {
      id: 'generalisation',
      title: 'Generalisation',
      ranges: true,
      penalty: false,
      levels: [
        { points: 0, to: 3.5, words: 'traced as found' },
        { points: 4, to: 6.5, words: 'some detail shed' },
        { points: 7, to: 9.5, words: 'shed for scale' },
        { points: 10, words: 'shed with judgement' },
      ],
    },
    {
      id: 'lettering',
      title: 'Lettering and hierarchy',
      ranges: false,
      penalty: false,
      levels: [
        { points: 0, words: 'illegible at scale' },
        { points: 2, words: 'legible, flat' },
        { points: 5, words: 'ordered' },
        { points: 8, words: 'ordered and quiet' },
      ],
    },
    {
      id: 'relief',
      title: 'Relief and terrain',
      ranges: false,
      penalty: false,
      levels: [
        { points: 0, words: 'not shown or wrong' },
        { points: 5, words: 'right, hard to read' },
        { points: 8, words: 'right, mostly readable' },
        { points: 10, words: 'right and readable' },
      ],
    },
    {
      id: 'sources',
      title: 'Sources and datum',
      ranges: false,
      penalty: false,
      levels: [
        { points: 0, words: 'missing or wrong' },
        { points: 2, words: 'named, incomplete' },
        { points: 4, words: 'complete' },
      ],
    },
    {
      id: 'sheet-rules',
      title: 'Sheet rules not kept',
      ranges: false,
      penalty: true,
      levels: [
        { points: 0, words: 'kept' },
        { points: 2, words: 'margin or legend' },
        { points: 4, words: 'not to the sheet rules' },
      ],
    },
  ],
}

export const VIVA_SCALE: ScaleBody = {
  labels: [
    { label: 'unready', percent: 30, threshold: 0 },
    { label: 'hesitant', percent: 48, threshold: 40 },
    { label: 'sound', percent: 62, threshold: 55 },
    { label: 'assured', percent: 76, threshold: 70 },
    { label: 'commanding', percent: 94, threshold: 86 },
  ],
}

export const FIELD_BOOK_SCHEME: SchemeBody = {
  criteria: [
    { id: 'entries', title: 'Entries', max: 15, words: 'Every observation with time, place, instrument and hand' },
    { id: 'sketches', title: 'Sketches', max: 10, words: 'Sketches that another surveyor could find the point from' },
    { id: 'reduction', title: 'Reduction', max: 10, words: 'Sums carried through and closed' },
  ],
}

export interface PlanItem {
  id: string
  title: string
  marking: 'direct' | 'rubric' | 'scheme' | 'judgement' | 'completion'
  outOf: number
  worth: number
  passMark: number | null
  tolerance?: number
  readings?: number
  step?: number
  blind?: boolean
  standard?: string
  bonus?: boolean
  /** Week of term in which it is due. */
  week: number
  /** At the section's second meeting of that week and not its first. */
  secondMeeting?: boolean
  /** How hard it is: added to a student's level, in percent. */
  ease: number
}

export interface PlanComponent {
  id: string
  title: string
  weight: number | null
  dropLowest: number
  bonus: boolean
  items: PlanItem[]
}

export const practical = (id: string, title: string, outOf: number, week: number, ease: number): PlanItem => ({
  id,
  title,
  marking: 'direct',
  outOf,
  worth: 10,
  passMark: outOf / 2,
  week,
  ease,
})

export const FIELD_MAPPING: PlanComponent[] = [
  {
    id: 'field-book',
    title: 'Field book',
    weight: 20,
    dropLowest: 0,
    bonus: false,
    items: [
      {
        id: 'field-book-1',
        title: 'Field book 1',
        marking: 'scheme',
        outOf: 35,
        worth: 10,
        passMark: 17.5,
        tolerance: 3,
        standard: 'scheme-field-book',
        week: 5,
        ease: 1,
      },
      {
        id: 'field-book-2',
        title: 'Field book 2',
        marking: 'scheme',
        outOf: 35,
        worth: 10,
        passMark: 17.5,
        tolerance: 3,
        standard: 'scheme-field-book',
        week: 9,
        ease: 3,
      },
    ],
  },
  {
    id: 'practicals',
    title: 'Practicals',
    weight: 25,
    dropLowest: 1,
    bonus: false,
    items: [
      practical('pacing', 'Pacing and compass', 20, 2, 6),
      practical('levelling', 'Levelling run', 30, 4, 4),
      // One task of it proved unfair: everyone fell there.
      practical('traverse', 'Traverse closure', 30, 6, -15),
      practical('plane-table', 'Plane table', 25, 8, 3),
      practical('detail', 'Detail survey', 40, 10, 1),
      practical('stereo', 'Stereo heights', 24, 12, 2),
    ],
  },
  {
    id: 'map-project',
    title: 'Map project',
    weight: 25,
    dropLowest: 0,
    bonus: false,
    items: [
      {
        id: 'map',
        title: 'Map project',
        marking: 'rubric',
        outOf: 100,
        worth: 100,
        passMark: 50,
        tolerance: 9,
        readings: 2,
        step: 0.5,
        blind: true,
        standard: 'rubric-map',
        week: 13,
        ease: 0,
      },
    ],
  },
  {
    id: 'viva',
    title: 'Viva',
    weight: 10,
    dropLowest: 0,
    bonus: false,
    items: [
      {
        id: 'viva-1',
        title: 'Viva',
        marking: 'judgement',
        outOf: 100,
        worth: 100,
        passMark: 48,
        tolerance: 18,
        readings: 3,
        step: 0.5,
        standard: 'scale-viva',
        week: 14,
        ease: 2,
      },
    ],
  },
  {
    id: 'paper',
    title: 'Written paper',
    weight: 15,
    dropLowest: 0,
    bonus: false,
    items: [
      {
        id: 'paper-1',
        title: 'Written paper',
        marking: 'direct',
        outOf: 80,
        worth: 80,
        passMark: 40,
        tolerance: 4,
        week: 14,
        secondMeeting: true,
        ease: -3,
      },
    ],
  },
  {
    id: 'part',
    title: 'Taking part',
    weight: 5,
    dropLowest: 0,
    bonus: false,
    items: [{ id: 'part-1', title: 'Taking part', marking: 'completion', outOf: 1, worth: 1, passMark: null, week: 15, ease: 0 }],
  },
  {
    id: 'open-day',
    title: 'Open day',
    weight: 2,
    dropLowest: 0,
    bonus: true,
    items: [
      {
        id: 'open-day-map',
        title: 'Open-day map',
        marking: 'direct',
        outOf: 10,
        worth: 10,
        passMark: null,
        bonus: false,
        week: 11,
        ease: 8,
      },
    ],
  },
]

export const READING_THE_GROUND: PlanComponent[] = [
  {
    id: 'walks',
    title: 'Ground walks',
    weight: 40,
    dropLowest: 0,
    bonus: false,
    items: [practical('walk-1', 'Ridge walk', 20, 4, 4), practical('walk-2', 'Valley walk', 20, 8, 2)],
  },
  {
    id: 'sketch-map',
    title: 'Sketch map',
    weight: 40,
    dropLowest: 0,
    bonus: false,
    items: [
      {
        id: 'sketch',
        title: 'Sketch map',
        marking: 'rubric',
        outOf: 40,
        worth: 40,
        passMark: 20,
        tolerance: 4,
        standard: 'rubric-map',
        week: 11,
        ease: 0,
      },
    ],
  },
  {
    id: 'talk',
    title: 'Talk at the outcrop',
    weight: null, // nobody typed it in yet: the plan says so
    dropLowest: 0,
    bonus: false,
    items: [
      {
        id: 'talk-1',
        title: 'Talk at the outcrop',
        marking: 'judgement',
        outOf: 100,
        worth: 100,
        passMark: 48,
        tolerance: 18,
        step: 0.5,
        standard: 'scale-viva',
        week: 14,
        ease: 0,
      },
    ],
  },
]

export const BOUNDARIES = [
  { grade: 'Distinction', from: 80 },
  { grade: 'Merit', from: 70 },
  { grade: 'Credit', from: 60 },
  { grade: 'Pass', from: 50 },
  { grade: 'Refer', from: 0 },
]
