/** Stands where figures are being reckoned that nothing can be drawn without. */
export const WorkingOut = () => (
  <div className="empty" role="status">
    Working it out…
  </div>
)
