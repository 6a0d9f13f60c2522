/** Sign-ins of the demo's first markers, whose piles wait in the second course. */
export const SIGN_INS = ['tadesse.abara', 'lea.ostrand', 'nomvula.brandt'] as const
