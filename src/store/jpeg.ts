/* What a camera wrote into a JPEG besides the picture: where it was taken, on what, by whom. It is left out; how it is turned is kept. */

const SOI = 0xd8
const SOS = 0xda
const APP0 = 0xe0
const EXIF = 'Exif\0\0'
/** Segments that the picture itself is read by: JFIF, its colours (ICC in APP2), how its colours are coded (Adobe in APP14). */
const kept: ReadonlySet<number> = new Set([APP0, 0xe2, 0xee])

const isApp = (marker: number): boolean => marker >= APP0 && marker <= 0xef
const ascii = (data: Uint8Array, at: number, length: number): string => String.fromCharCode(...data.subarray(at, at + length))

/** How a picture is turned, as its EXIF says it, from 1 to 8; 1 where it says nothing. EXIF 2.3, tag 0x0112. */
function orientationIn(segment: Uint8Array): number {
  if (ascii(segment, 4, 6) !== EXIF) return 1
  const view = new DataView(segment.buffer, segment.byteOffset + 10, segment.byteLength - 10)
  if (view.byteLength < 10) return 1
  const little = view.getUint16(0) === 0x4949
  const first = view.getUint32(4, little)
  if (first + 2 > view.byteLength) return 1
  for (let i = 0, n = view.getUint16(first, little); i < n; i++) {
    const at = first + 2 + 12 * i
    if (at + 10 > view.byteLength) return 1
    if (view.getUint16(at, little) === 0x0112) {
      const turned = view.getUint16(at + 8, little)
      return turned >= 1 && turned <= 8 ? turned : 1
    }
  }
  return 1
}
/** An EXIF segment that says how the picture is turned, and nothing else. */
const turnedSegment = (orientation: number): Uint8Array => {
  const head = [0xff, 0xe1, 0, 34, ...[...EXIF].map((c) => c.charCodeAt(0))]
  const tiff = [0x4d, 0x4d, 0, 0x2a, 0, 0, 0, 8, 0, 1]
  const turned = [0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, orientation, 0, 0]
  return Uint8Array.from([...head, ...tiff, ...turned, 0, 0, 0, 0])
}

/** A JPEG without what was written into it besides the picture; anything that is no JPEG as it is. The same data gives the same always. */
export function pictureAlone(data: Uint8Array): Uint8Array {
  if (data[0] !== 0xff || data[1] !== SOI) return data
  const parts: Uint8Array[] = [data.subarray(0, 2)]
  let orientation = 1
  let at = 2
  while (at + 4 <= data.length && data[at] === 0xff) {
    const marker = data[at + 1]!
    if (marker === SOS) break
    const end = at + 2 + ((data[at + 2]! << 8) | data[at + 3]!)
    if (end > data.length) break
    const segment = data.subarray(at, end)
    if (marker === 0xe1) orientation = orientation === 1 ? orientationIn(segment) : orientation
    // A comment is somebody's words too.
    else if (marker !== 0xfe && (!isApp(marker) || kept.has(marker))) parts.push(segment)
    at = end
  }
  const rest = data.subarray(at)
  const turned = orientation === 1 ? [] : [turnedSegment(orientation)]
  const [begin, ...segments] = parts
  const whole = [begin!, ...turned, ...segments, rest]
  const made = new Uint8Array(whole.reduce((n, p) => n + p.length, 0))
  let to = 0
  for (const p of whole) {
    made.set(p, to)
    to += p.length
  }
  return made
}
