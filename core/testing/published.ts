/** Six scripts by four judges: table 2 of Shrout and Fleiss 1979. */
export const FOUR_JUDGES = [
  [9, 2, 5, 8],
  [6, 1, 3, 2],
  [8, 4, 6, 8],
  [7, 1, 2, 6],
  [10, 5, 6, 9],
  [6, 2, 4, 7],
]
