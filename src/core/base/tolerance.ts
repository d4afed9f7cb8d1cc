/** A value within this relative distance of its limit counts as equal to it. */
const RELATIVE = 1e-9

/** True when `value` is at most `limit`, equality judged to 1e-9 relative. */
export function atMost(value: number, limit: number): boolean {
  if (!Number.isFinite(value)) return value <= limit
  return value <= limit + RELATIVE * Math.max(Math.abs(value), Math.abs(limit))
}

/** True when `value` is at least `limit`, equality judged to 1e-9 relative. */
export function atLeast(value: number, limit: number): boolean {
  return atMost(limit, value)
}
