/* What is worked out once: values by what they are made of. Nothing here changes an answer, only how often it is worked out. */

export type Parts = readonly unknown[]
/** Whether two lists hold the very same things in the same order. */
export function sameParts(a: Parts, b: Parts): boolean {
  if (a === b) return true
  if (a.length !== b.length) return false
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false
  return true
}

/** Memoises a function of one object in a WeakMap. */
export function once<K extends object, V>(make: (key: K) => V): (key: K) => V {
  const known = new WeakMap<K, V>()
  return (key) => {
    let value = known.get(key)
    if (value === undefined) known.set(key, (value = make(key)))
    return value
  }
}

/** Memoises by a key and its parts: the same parts give the same object as before. */
export function remembered<K extends object, V>(): (key: K, parts: Parts, make: () => V) => V {
  const known = new WeakMap<K, { parts: Parts; value: V }>()
  return (key, parts, make) => {
    const hit = known.get(key)
    if (hit && sameParts(hit.parts, parts)) return hit.value
    const value = make()
    known.set(key, { parts, value })
    return value
  }
}

/**
 * Made of parts, among lists that most edits leave alone (`among`, one object for the same lists): where nothing of them changed, the parts
 * are not even gathered.
 */
export function rememberedAmong<K extends object, V>(): (key: K, among: object | null, look: () => Look<V>) => V {
  const known = new WeakMap<K, { among: object | null; readonly parts: Parts; readonly value: V }>()
  return (key, among, look) => {
    const hit = known.get(key)
    if (hit && among !== null && hit.among === among) return hit.value
    const { parts, make } = look()
    if (hit && sameParts(hit.parts, parts)) {
      hit.among = among
      return hit.value
    }
    const value = make()
    known.set(key, { among, parts, value })
    return value
  }
}
/** The parts of a thing, and how it is made of them. */
export interface Look<V> {
  readonly parts: Parts
  readonly make: () => V
}

/** One object for the same parts, that stands for all of them. */
export function oneFor(): (parts: Parts) => object {
  const keep = lruCache<object>()
  return (parts) => keep(parts, () => ({}))
}

/** Capacity: so many jobs are looked at in turn without one evicting another. */
const CAPACITY = 12

/** A small LRU cache keyed by inputs, where no input lives long enough to key a WeakMap. */
export function lruCache<V>(): (parts: Parts, make: () => V) => V {
  let known: { readonly parts: Parts; readonly value: V }[] = []
  return (parts, make) => {
    const hit = known.find((k) => sameParts(k.parts, parts)) ?? { parts, value: make() }
    if (known[0] !== hit) known = [hit, ...known.filter((k) => k !== hit)].slice(0, CAPACITY)
    return hit.value
  }
}

/** Lists with the same things in them are one list. */
export function oneList<T>(): (list: readonly T[]) => readonly T[] {
  const keep = lruCache<readonly T[]>()
  return (list) => keep(list, () => list)
}
