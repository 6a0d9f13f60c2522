import { EventEmitter } from 'node:events'

/** Tells that what gives evidence in a course is another, where that leaves its marks as they are. */
export function outcomeNews() {
  const told = new EventEmitter()
  return {
    tell: (courseId: string): void => void told.emit('changed', courseId),
    on: (listener: (courseId: string) => void): void => void told.on('changed', listener),
  }
}

export type OutcomeNews = ReturnType<typeof outcomeNews>
