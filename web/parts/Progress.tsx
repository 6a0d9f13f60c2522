/** How much of something there is beside the most of its kind, and how much of it is done. */
export function Progress({ of, done, most, words }: { of: number; done: number; most: number; words: string }) {
  return (
    <span className="progress-line" role="img" aria-label={words}>
      {of > 0 && (
        <span className="filled" style={{ width: `${(of / most) * 100}%` }}>
          <span className="done" style={{ width: `${(100 * Math.min(done, of)) / of}%` }} />
        </span>
      )}
    </span>
  )
}
