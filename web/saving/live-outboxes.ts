/** Outboxes that have something waiting outlive their screen: whoever comes back to it finds the one that is still at it. */
export const liveOutboxes = new Map<string, { end: () => void }>()

/** Nothing of it is sent any more from this page. */
export function endOutboxes(): void {
  for (const outbox of liveOutboxes.values()) outbox.end()
  liveOutboxes.clear()
}
