import type { ReactNode } from 'react'

export const CommonWeights = ({ nav }: { nav: ReactNode }) => <div className="work">{nav}</div>
