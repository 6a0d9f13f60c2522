import { hashKey } from '@tanstack/react-query'
import type { Change } from '#core/trial'

/** What a trial would come to that nobody has opened yet. */
export interface Foretold<T> {
  /** By which whoever worked it out knows it again. */
  id: number
  changes: readonly Change[]
  tried: T
}

/** What the next steps would come to, worked out before they are made, so that the one that is made waits for nothing. */
export class ForetoldTrials<T> {
  private known: Foretold<T>[] = []
  private wanted: (readonly Change[])[] = []
  private ids = 0

  /** @param workOut what changes would come to; where that fails they are simply not foretold */
  constructor(private readonly workOut: (id: number, changes: readonly Change[]) => Promise<T>) {}

  /** Works out trials that may come next, in place of those that might have come before. */
  expect(trials: readonly (readonly Change[])[]): void {
    this.known = this.known.filter((k) => trials.some((changes) => isSameTrial(k.changes, changes)))
    const added = trials.filter((changes) => !this.wanted.some((w) => isSameTrial(w, changes)))
    this.wanted = [...trials]
    for (const changes of added) void this.add(changes)
  }

  find(changes: readonly Change[]): Foretold<T> | null {
    return this.known.find((k) => isSameTrial(k.changes, changes)) ?? null
  }

  /** The course is another: nothing that was foretold of it holds. */
  forget(): void {
    this.known = []
    this.wanted = []
  }

  private async add(changes: readonly Change[]): Promise<void> {
    const id = ++this.ids
    const tried = await this.workOut(id, changes).catch(() => null)
    if (tried !== null && this.wanted.includes(changes)) this.known.push({ id, changes, tried })
  }
}

/** Most changes of two trials are the very same. */
const isSameTrial = (a: readonly Change[], b: readonly Change[]): boolean =>
  a.length === b.length && a.every((change, i) => change === b[i] || hashKey([change]) === hashKey([b[i]]))
