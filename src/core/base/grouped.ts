/** Things by a key, each group in the order of the list; groups in the order they first appear. */
export function grouped<T, K>(list: readonly T[], key: (x: T) => K): Map<K, T[]> {
  const map = new Map<K, T[]>()
  for (const x of list) {
    const k = key(x)
    const known = map.get(k)
    if (known) known.push(x)
    else map.set(k, [x])
  }
  return map
}
