/** Minutes after midnight of a time as people type it: 8, 8:30, 8.30, 1630; undefined where it is none. */
export function readClock(typed: string): number | undefined {
  const plain = typed.trim()
  const parted = /^(\d{1,2})[:.h ]?(\d{2})?$/.exec(plain) ?? /^(\d{1,2})(\d{2})$/.exec(plain)
  if (!parted) return undefined
  const [hours, minutes] = [Number(parted[1]), Number(parted[2] ?? 0)]
  return hours < 24 && minutes < 60 ? hours * 60 + minutes : undefined
}
