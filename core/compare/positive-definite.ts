/** Lower triangle L with A = L·Lᵀ, row by row in one array; null where A is not positive definite. */
export function cholesky(a: Float64Array, size: number): Float64Array | null {
  const l = new Float64Array(size * size)
  for (let i = 0; i < size; i++) {
    const row = i * size
    for (let j = 0; j <= i; j++) {
      const other = j * size
      let s = a[row + j]!
      for (let k = 0; k < j; k++) s -= l[row + k]! * l[other + k]!
      if (i !== j) l[row + j] = s / l[other + j]!
      else if (s > 0) l[row + i] = Math.sqrt(s)
      else return null
    }
  }
  return l
}

/** The logarithm of the determinant of A = L·Lᵀ. */
export function logDeterminant(l: Float64Array, size: number): number {
  let sum = 0
  for (let i = 0; i < size; i++) sum += 2 * Math.log(l[i * size + i]!)
  return sum
}

/** x with L·Lᵀ·x = b. */
export function solve(l: Float64Array, size: number, b: ArrayLike<number>): Float64Array {
  const x = Float64Array.from(b)
  for (let i = 0; i < size; i++) {
    for (let k = 0; k < i; k++) x[i]! -= l[i * size + k]! * x[k]!
    x[i]! /= l[i * size + i]!
  }
  for (let i = size - 1; i >= 0; i--) {
    for (let k = i + 1; k < size; k++) x[i]! -= l[k * size + i]! * x[k]!
    x[i]! /= l[i * size + i]!
  }
  return x
}
