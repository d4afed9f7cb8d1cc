const ones = [
  ['zero', 'nought', 'oh'],
  ['one'],
  ['two'],
  ['three'],
  ['four'],
  ['five'],
  ['six'],
  ['seven'],
  ['eight'],
  ['nine'],
  ['ten'],
  ['eleven'],
  ['twelve'],
  ['thirteen'],
  ['fourteen'],
  ['fifteen'],
  ['sixteen'],
  ['seventeen'],
  ['eighteen'],
  ['nineteen'],
]
const tens = ['twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety']
const small = new Map(ones.flatMap((words, value) => words.map((w) => [w, value] as const)))
const large = new Map(tens.map((w, i) => [w, 10 * (i + 2)] as const))
const isPart = (w: string): boolean => small.has(w) || large.has(w) || ['hundred', 'thousand', 'and'].includes(w)

/** What is said before the point: "two hundred and thirty"; null where it is said some other way. */
function whole(words: readonly string[]): number | null {
  let [sum, part] = [0, 0]
  /** What comes next is less than this: "twenty one" is a figure, "one two" is none. */
  let room = Number.POSITIVE_INFINITY
  for (const w of words) {
    if (w === 'and') continue
    const times = w === 'hundred' ? 100 : w === 'thousand' ? 1000 : null
    if (times !== null) {
      if (part === 0 || part >= times) return null
      if (w === 'thousand') [sum, part] = [sum + part * times, 0]
      else part *= times
      room = times
      continue
    }
    const value = small.get(w) ?? large.get(w)!
    if (value >= room) return null
    part += value
    room = large.has(w) ? 10 : 0
  }
  return sum + part
}

/** "Two three one": three digits or more, each said by itself; null where it is said some other way, or by two alone. */
function digitByDigit(words: readonly string[]): number | null {
  const digits = words.map((w) => small.get(w))
  return words.length >= 3 && digits.every((d) => d !== undefined && d <= 9) ? Number(digits.join('')) : null
}

/**
 * A figure as it is said aloud, in figures: "point three seven" is 0.37, "over two hundred megohms" is ">200 megohms". What is said some
 * other way comes back as it was.
 */
export function asFigures(text: string): string {
  const words = text.trim().toLowerCase().replaceAll('-', ' ').split(/\s+/)
  const over = ['over', 'above'].includes(words[0]!)
    ? 1
    : words[0] === 'more' && words[1] === 'than'
      ? 2
      : words[0] === 'greater' && words[1] === 'than'
        ? 2
        : 0
  const said = words.slice(over)
  const end = said.findIndex((w) => !isPart(w) && w !== 'point')
  const figures = said.slice(0, end < 0 ? said.length : end)
  // "Over 200 meg": the figure is one already.
  if (figures.length === 0) return over > 0 && /^[\d.,]/.test(said[0] ?? '') ? `>${text.trim().split(/\s+/).slice(over).join(' ')}` : text
  const point = figures.indexOf('point')
  const before = figures.slice(0, point < 0 ? figures.length : point)
  const after = point < 0 ? [] : figures.slice(point + 1)
  const digits = after.map((w) => small.get(w))
  const left = before.length ? (digitByDigit(before) ?? whole(before)) : 0
  if (left === null || (point >= 0 && digits.length === 0) || digits.some((d) => d === undefined || d > 9)) return text
  // The unit as it was written: capitals tell milli from mega.
  const rest =
    end < 0
      ? ''
      : ` ${text
          .trim()
          .split(/[\s-]+/)
          .slice(over + end)
          .join(' ')}`
  return `${over ? '>' : ''}${left}${digits.length ? `.${digits.join('')}` : ''}${rest}`
}
