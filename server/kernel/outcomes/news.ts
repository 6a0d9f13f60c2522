import { EventEmitter } from 'node:events'

/** Tells that what gives evidence in a course, or an outcome itself, is another, where that leaves its marks as they are. */
export function outcomeNews() {
  const told = new EventEmitter()
  return {
    tell: (courseId: string): void => void told.emit('changed', courseId),
    on: (listener: (courseId: string) => void): void => void told.on('changed', listener),
    /** An outcome of the library is another, for every course that uses it. @param id of its newest version */
    tellOutcome: (id: string): void => void told.emit('outcome', id),
    onOutcome: (listener: (id: string) => void): void => void told.on('outcome', listener),
  }
}

export type OutcomeNews = ReturnType<typeof outcomeNews>
