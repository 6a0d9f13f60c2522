import type { MessagePort } from 'node:worker_threads'
import { FileError } from '#core/exchange/delimited'
import { readMarksFile, type MarksFile } from '#core/exchange/marks-file'
import { readPeople, type PersonLine } from '#core/exchange/people-lines'
import type { MarksRead } from '#core/exchange/marks-who'
import { readMarks } from '#core/exchange/read-marks'
import { readRoll } from '#core/exchange/read-roll'
import type { RollFile, RollMatch } from '#core/exchange/roll-file'
import type { TriedPackage } from '#contract'
import { bringIn, tryPackage } from '../areas/keeping/package/bring-in'
import { takeOut, type CourseToTake } from '../areas/keeping/package/take-out'
import { backUp, BackUpError, type BackUp } from '../areas/keeping/back-up'
import { libraryFile } from './library-file'
import { assessmentRead, packAssessment, type AssessmentRead, type AssessmentToPack } from './packed-assessment'
import { telling } from './telling'
import type { LibraryFileRead } from '../kernel/standards/library-file'

/** Off the main thread: what files hold. A file that cannot be read comes back as a sentence. */
async function orSentence<T>(work: () => Promise<T>): Promise<T | string> {
  try {
    return await work()
  } catch (e) {
    if (e instanceof FileError) return e.column === null ? e.message : `${e.message} (line ${e.line})`
    throw e
  }
}

export interface RollTask {
  bytes: Uint8Array
  match: RollMatch
  port: MessagePort
}

export const roll = ({ bytes, match, port }: RollTask): Promise<RollFile | string> =>
  telling<RollFile | string, string>(port, (tell) => orSentence(() => readRoll(bytes, match, tell)))

/** The marks in a CSV, an XLSX, or zipped results. */
export function marks(given: ({ bytes: Uint8Array } | { text: string }) & { match?: MarksRead }): Promise<MarksFile | string> {
  // What is wrong with a pasted text stands among its rows.
  return 'text' in given ? Promise.resolve(readMarksFile(given.text, given.match)) : orSentence(() => readMarks(given.bytes, given.match))
}

/** What a file holds for the library. */
export const library = ({ bytes }: { bytes: Uint8Array }): Promise<LibraryFileRead | string> => orSentence(() => libraryFile(bytes))
/** What a data package of an assessment holds. */
export const packedAssessment = ({ bytes }: { bytes: Uint8Array }): Promise<AssessmentRead | string> =>
  orSentence(() => Promise.resolve(assessmentRead(bytes)))
/** The people that a list names. */
export const people = ({ text }: { text: string }): Promise<PersonLine[] | string> => orSentence(() => Promise.resolve(readPeople(text)))

export { readBoxList as boxList } from './box-list'
/** A backup, or a sentence why it is none. */
export async function backup(of: { file: string; into: string }): Promise<BackUp | string> {
  try {
    return await backUp(of)
  } catch (e) {
    // A full disk and a folder that cannot be written are for a person to mend.
    if (e instanceof BackUpError || (e as NodeJS.ErrnoException).code !== undefined) return (e as Error).message
    throw e
  }
}

export { issueFile, issueMade, issueParts, issueRows, issuesCompared, officeFile, oneRosterFile } from './issue'
export { countNames, makeNameless, writeAnew } from '../areas/keeping/nameless'
/** A course as a data package, in a file. */
export function takeOutCourse(of: CourseToTake): Record<string, number> {
  return takeOut(of)
}
/** What a data package would do here, or why it cannot be brought in. */
export const triedPackage = (of: { file: string; packed: string }): Promise<TriedPackage | string> => orSentence(() => tryPackage(of))
/** Brings a data package in. */
export const broughtPackage = (of: { file: string; packed: string }): Promise<{ courseId: string } | string> =>
  orSentence(async () => ({ courseId: await bringIn(of) }))

/** An assessment as a data package. */
export const takeOutAssessment = (of: AssessmentToPack): Promise<Uint8Array | string> =>
  orSentence(() => Promise.resolve(packAssessment(of)))
export { judgedColumns } from './judged'
export { rosterFile, sheetFile } from './marks-out'
export { sharesOfCourse, standingLevels, standingsRoster } from './standings'
export { handedIn, readDelivery as delivery } from './delivery'
