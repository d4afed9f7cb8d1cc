/** Bytes that a character of UTF-8 takes, by its first one; 0: none begins so. */
const lengthOf = (first: number): number =>
  first < 0x80 ? 1 : first >= 0xc2 && first < 0xe0 ? 2 : first >= 0xe0 && first < 0xf0 ? 3 : first >= 0xf0 && first < 0xf5 ? 4 : 0

/** The first byte at which a text is no UTF-8; its length where all of it is. */
export function firstNotUtf8(bytes: Uint8Array): number {
  const decoder = new TextDecoder('utf-8', { fatal: true })
  for (let at = 0; at < bytes.length;) {
    const length = lengthOf(bytes[at]!)
    if (length === 0) return at
    try {
      decoder.decode(bytes.subarray(at, at + length))
    } catch {
      return at
    }
    at += length
  }
  return bytes.length
}
