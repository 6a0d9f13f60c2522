import type { ReactNode } from 'react'

export const Ideas = ({ nav }: { nav: ReactNode }) => <div className="work">{nav}</div>
