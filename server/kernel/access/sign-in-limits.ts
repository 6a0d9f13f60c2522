import { keepLatest } from '../keep-latest'

interface Tries {
  failed: number
  last: number
}

/** Failures before one has to wait: of one account from one address, of one account from anywhere, of accounts from one address. */
const FREE = { pair: 4, account: 20, accounts: 10 }
/** Tries of different accounts from one address that may be under way at once: a class signs in together. */
const TOGETHER = 60
const LONGEST_WAIT_MS = 15 * 60_000
/** Of an account from anywhere, so that whoever guesses cannot shut its owner out for long. */
const LONGEST_ACCOUNT_WAIT_MS = 30_000
const FORGOTTEN_AFTER_MS = 60 * 60_000
const MOST_KEPT = 10_000

/**
 * How long one has to wait before the next try to sign in, growing with every failure. One account's failures hold up nobody
 * else's, also where all come from one address; only who tries many accounts from one is slowed down in all of them.
 */
export class SignInLimits {
  readonly #pairs = new Map<string, Tries>()
  readonly #accounts = new Map<string, Tries>()
  readonly #addresses = new Map<string, Map<string, { at: number; failed: boolean }>>()

  constructor(readonly now: () => number = Date.now) {}

  /** Seconds to wait before this try; 0 where it may be made now. */
  waitFor(account: string, address: string): number {
    const now = this.now()
    const left = (tries: Tries | undefined, free: number, longest: number) => {
      if (!tries || tries.failed < free) return 0
      const wait = Math.min(longest, 1000 * 2 ** (tries.failed - free))
      // A clock that was set back makes nobody wait for longer than that.
      return Math.min(wait, Math.max(0, tries.last + wait - now))
    }
    const recent = this.#recent(address)
    const failed = [...recent.values()].filter((t) => t.failed).length
    const spread = failed < FREE.accounts && recent.size < TOGETHER ? failed : recent.size
    const sprayed = this.#lastOf(address)
    return Math.ceil(
      Math.max(
        left(this.#pairs.get(`${account} ${address}`), FREE.pair, LONGEST_WAIT_MS),
        left(this.#accounts.get(account), FREE.account, LONGEST_ACCOUNT_WAIT_MS),
        left({ failed: spread, last: sprayed }, FREE.accounts, LONGEST_WAIT_MS),
      ) / 1000,
    )
  }

  /** Counted before the passphrase is looked at, so that many tries at once are not one. */
  tried(account: string, address: string): void {
    const now = this.now()
    count(this.#pairs, `${account} ${address}`, now)
    count(this.#accounts, account, now)
    const accounts = this.#recent(address)
    accounts.set(account, { at: now, failed: accounts.get(account)?.failed ?? false })
    keepLatest(this.#addresses, address, accounts, MOST_KEPT)
  }

  /** They did not know it. */
  failed(account: string, address: string): void {
    const tries = this.#addresses.get(address)?.get(account)
    if (tries) tries.failed = true
  }

  /** They knew it: what was counted against them is forgotten. */
  succeeded(account: string, address: string): void {
    this.#pairs.delete(`${account} ${address}`)
    this.#accounts.delete(account)
    this.#addresses.get(address)?.delete(account)
  }

  /** Accounts that failed from an address of late, or are being tried. */
  #recent(address: string): Map<string, { at: number; failed: boolean }> {
    const since = this.now() - FORGOTTEN_AFTER_MS
    return new Map([...(this.#addresses.get(address) ?? [])].filter(([, { at }]) => at > since).slice(-200))
  }
  #lastOf = (address: string): number => Math.max(0, ...[...(this.#addresses.get(address)?.values() ?? [])].map(({ at }) => at))
}

function count(all: Map<string, Tries>, key: string, now: number): void {
  const before = all.get(key)
  keepLatest(all, key, { failed: before && now - before.last < FORGOTTEN_AFTER_MS ? before.failed + 1 : 1, last: now }, MOST_KEPT)
}
