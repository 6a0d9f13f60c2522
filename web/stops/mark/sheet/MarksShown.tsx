/** Marks as they were marked, or as they count; a line beneath one says that the two differ. */
export function MarksShown({ asCounted, onAsCounted }: { asCounted: boolean; onAsCounted: (asCounted: boolean) => void }) {
  return (
    <div className="words-choice" role="group" aria-label="Marks shown">
      <button aria-pressed={!asCounted} title="A line beneath a mark says that it is rescaled" onClick={() => onAsCounted(false)}>
        as marked
      </button>
      <button
        aria-pressed={asCounted}
        title="After what was adopted at Rescale; typing still means the mark"
        onClick={() => onAsCounted(true)}
      >
        as they count
      </button>
    </div>
  )
}
