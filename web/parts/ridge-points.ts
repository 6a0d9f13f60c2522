/** Places that the shape of a ridge is drawn through. */
export const RIDGE_POINTS = 80
