/** What a screen reader says at the moment that it happens, where others see it. */
export const Spoken = ({ children }: { children: string }) => (
  <p className="visually-hidden" role="status">
    {children}
  </p>
)
